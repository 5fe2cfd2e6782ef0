import { Box, Button } from '@mui/material';
import { readProject } from '@skipback/core/project/schema';
import { database } from '@skipback/media/storage/database';
import { useQuery } from '@tanstack/react-query';
import { useEffect } from 'react';
import { Link, Outlet, useOutletContext, useParams } from 'react-router';
import type { Project } from '@skipback/core/project/schema';
import { resetCompare } from './state/compare';
import { importFiles } from './state/import-files';
import { closeProject, openProject, useProjectStore } from './state/project-store';
import { shelfFacts, startAutosave } from './state/saving';
import { waitingFiles } from './state/waiting-files';

async function load(id: string): Promise<Project> {
  const record = await database.projects.get(id);
  if (!record) throw new Error('This project is not on this browser’s shelf.');
  const read = readProject(record.document);
  if (!read.ok) throw new Error(read.sentence);
  return read.project;
}

/** Loads the project of the address, keeps it saved while it is open, and gives it to the view. */
export function ProjectRoute() {
  const { id = '' } = useParams();
  const { data, error } = useQuery({ queryKey: ['project', id], queryFn: () => load(id), gcTime: 0 });
  const project = useProjectStore((s) => s.project);

  useEffect(() => {
    if (!data) return;
    shelfFacts.poster = null;
    openProject(data);
    resetCompare();
    const stop = startAutosave();
    const files = waitingFiles.splice(0);
    if (files.length > 0) void importFiles(files);
    return () => {
      stop();
      closeProject();
    };
  }, [data]);

  if (error)
    return (
      <Box sx={{ p: 6 }} role="alert">
        <Box sx={{ mb: 2 }}>{error.message}</Box>
        <Button variant="contained" component={Link} to="/">
          To the shelf
        </Button>
      </Box>
    );
  if (!project || project.id !== id) return null;
  return <Outlet context={project} />;
}

/** The open project, for a view inside the route. */
export function useOpenProject(): Project {
  return useOutletContext<Project>();
}
