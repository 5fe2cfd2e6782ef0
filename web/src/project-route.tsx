import { frame } from '@skipback/core/time/units';
import { Box, Button } from '@mui/material';
import { withDraggedSegments } from '@skipback/core/project/older-fits';
import { readProject } from '@skipback/core/project/read-project';
import type { Project } from '@skipback/core/project/schema';
import { database } from '@skipback/media/storage/database';
import { notedUnsaved } from '@skipback/media/storage/journal';
import { Said } from '@skipback/media/worker-client';
import { revisionOf } from '@skipback/media/storage/project-records';
import { useQuery } from '@tanstack/react-query';
import { useSnackbar } from 'notistack';
import { type ReactNode, useEffect, useState } from 'react';
import { Link, Outlet, useOutletContext, useParams } from 'react-router';
import { CAUTION } from './notices';
import { ProjectFrame } from './project-frame';
import { download, fileName } from './state/download';
import { importFiles } from './state/import-files';
import { type Versions, closeProject, openProject, useProjectStore } from './state/project-store';
import { flushSaving, shelfFacts, startAutosave, useSaving } from './state/saving';
import { onlyHereOf } from './state/shelve';
import { type Hold, holdProject, takeOverProject } from './state/tab-locks';
import { versionsOf } from './state/versions';
import { takeOpening } from './state/opening';
import { resetBench } from './state/bench';
import { setOpen } from './state/open';
import { transport } from './state/transport';
import { usePlaying } from './state/playing';
import { keepBench, restoreBench } from './state/kept-bench';

interface Opened {
  readonly project: Project;
  readonly versions?: Versions;
  readonly lost: string | undefined;
  readonly revision: number;
  readonly poster: Blob | null;
  /** Result frame of the poster. */
  readonly at: number;
  /** Set where the last change was found in the journal: the database gets it at once. */
  readonly unsaved: boolean;
}

/** Why a project did not open, in a sentence, and the document itself where there is one. */
class NotOpened extends Said {
  constructor(
    sentence: string,
    readonly document?: unknown,
  ) {
    super(sentence);
  }
}

/** The project with segments that were dragged in versions before held on to, as far as its clips' frames are known. */
async function withDraggedSegmentsHeld(project: Project): Promise<Project> {
  const records = await database.media.bulkGet(project.clips.map((c) => c.mediaId)).catch(() => []);
  const tables = new Map(project.clips.map((c, i) => [c.id, records[i]?.facts.table]));
  return withDraggedSegments(project, (id) => tables.get(id));
}

async function load(id: string): Promise<Opened> {
  const record = await database.projects.get(id).catch(() => undefined);
  const noted = notedUnsaved(localStorage, id);
  const here = onlyHereOf(id);
  if (!record && !noted && here)
    return { project: here, lost: undefined, revision: 0, poster: null, at: 0, unsaved: true };
  if (!record && !noted) throw new NotOpened('This project is not on this browser’s shelf.');
  const revision = record ? revisionOf(record) : 0;
  const unsaved = noted !== undefined && noted.revision > revision;
  const candidates = [...(unsaved ? [noted.document] : []), ...(record ? [record.document] : [])];
  const reads = candidates.map((document) => readProject(document));
  const read = reads.find((r) => r.ok);
  if (!read) {
    const [first] = reads;
    throw new NotOpened(first && !first.ok ? first.sentence : 'This project cannot be read.', candidates[0]);
  }
  const project = await withDraggedSegmentsHeld(read.project);
  return {
    ...read,
    project,
    ...(record && { versions: versionsOf(record, read === reads[0] ? noted?.letter : undefined) }),
    revision: Math.max(revision, unsaved ? noted.revision : 0),
    poster: record?.poster ?? null,
    at: record?.at ?? 0,
    unsaved: unsaved || read.lost !== undefined,
  };
}

/** Whether this tab has the project to work on. */
type Standing = 'asking' | 'held' | 'elsewhere' | 'taken';

/** Holds the project of the address while it is open. Gives how it stands, and how to take it over. */
function useHold(id: string): { standing: Standing; turn: number; takeOver: () => void } {
  const [standing, setStanding] = useState<Standing>('asking');
  /** How often it was taken over by this tab. */
  const [turn, setTurn] = useState(0);
  useEffect(() => {
    const left = new AbortController();
    let held: Hold | undefined;
    setStanding('asking');
    const how = {
      onWanted: flushSaving,
      onLost: () => !left.signal.aborted && setStanding('taken'),
      onElsewhere: () => !left.signal.aborted && setStanding('elsewhere'),
    };
    const asking = turn > 0 ? takeOverProject(id, how) : holdProject(id, how, left.signal);
    asking
      .then((got) => {
        if (left.signal.aborted) return got?.release();
        held = got;
        if (got) setStanding('held');
      })
      .catch(() => undefined);
    return () => {
      left.abort();
      held?.release();
    };
  }, [id, turn]);
  return { standing, turn, takeOver: () => setTurn((n) => n + 1) };
}

/** Loads the project of the address, keeps it saved while it is open, and gives it to the view. */
export function ProjectRoute() {
  const { id = '' } = useParams();
  const { standing, turn, takeOver } = useHold(id);
  const { data, error } = useQuery({
    queryKey: ['project', id, turn],
    queryFn: () => load(id),
    enabled: standing === 'held',
    gcTime: 0,
    staleTime: 0,
  });
  const { enqueueSnackbar } = useSnackbar();
  const project = useProjectStore((s) => s.project);
  const overtaken = useSaving((s) => s.state === 'overtaken');

  useEffect(() => {
    if (!data || standing !== 'held') return;
    Object.assign(shelfFacts, { poster: data.poster, at: data.at, fromBefore: true });
    resetBench();
    openProject(data.project, data.versions);
    // As it was when it was left; on another machine, at the frame of its picture.
    const { position } = restoreBench(id) ? usePlaying.getState() : { position: frame(Math.floor(data.at)) };
    transport.openAt(position);
    const keeping = keepBench(id);
    const stop = startAutosave(data.revision, data.unsaved);
    if (data.lost) enqueueSnackbar(data.lost, { ...CAUTION, autoHideDuration: 12_000 });
    const { files, offersRecipes, plays } = takeOpening();
    if (offersRecipes) setOpen({ offered: 'recipes', offerOpen: true });
    if (plays) transport.playWhenReady();
    if (files.length > 0) void importFiles(files);
    return () => {
      keeping();
      stop();
      closeProject();
    };
  }, [id, data, standing, enqueueSnackbar]);

  if (standing === 'elsewhere' || standing === 'taken' || overtaken)
    return (
      <Told
        sentence={
          standing === 'elsewhere'
            ? 'This project is open in another tab. Only one tab can work on it at a time: it opens here once that one is closed.'
            : 'This project is now worked on in another tab. Everything done here is saved.'
        }
      >
        <Button variant="contained" onClick={takeOver}>
          Work on it here
        </Button>
      </Told>
    );
  if (error) {
    const { sentence, document } =
      error instanceof NotOpened ? error : new NotOpened('This project cannot be opened.');
    return (
      <Told sentence={sentence}>
        {document !== undefined && (
          <Button
            variant="contained"
            onClick={() =>
              download(
                new Blob([JSON.stringify(document, null, 2)], { type: 'application/json' }),
                `${fileName(id)}.json`,
              )
            }
          >
            Save it as a file
          </Button>
        )}
      </Told>
    );
  }
  if (standing !== 'held' || !project || project.id !== id) return null;
  return (
    <ProjectFrame project={project}>
      <Outlet context={project} />
    </ProjectFrame>
  );
}

/** Something that keeps a project from being shown, and the ways out. */
function Told({ sentence, children }: { readonly sentence: string; readonly children: ReactNode }) {
  return (
    <Box sx={{ p: 6 }} role="alert">
      <Box sx={{ mb: 2, fontSize: 16 }}>{sentence}</Box>
      <Box sx={{ display: 'flex', gap: 1.5 }}>
        {children}
        <Button color="inherit" variant="outlined" component={Link} to="/">
          To the shelf
        </Button>
      </Box>
    </Box>
  );
}

/** The open project, for a view inside the route. */
export function useOpenProject(): Project {
  return useOutletContext<Project>();
}
