import { Box, Button } from '@mui/material';
import { renameProject } from '@skipback/core/project/actions';
import { newProject } from '@skipback/core/project/new-project';
import { type ProjectRecord, database } from '@skipback/media/storage/database';
import { changeProject } from '@skipback/media/storage/project-records';
import { sentenceOf } from '@skipback/media/worker-client';
import { useSnackbar } from 'notistack';
import { CAUTION, TROUBLE } from '../notices';
import { useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { useNavigate } from 'react-router';
import { JobsSign } from '../parts/jobs-sign';
import { usePastedFiles } from '../parts/use-pasted-files';
import { Sign } from '../parts/sign';
import { RenderSign } from '../parts/top-bar';
import { openDemo } from '../state/demo';
import { whileNobodyHas } from '../state/tab-locks';
import { freshId } from '../state/ids';
import { PROJECT_FILE_EXTENSION, databaseSentence, shelve } from '../state/shelve';
import { openNextWith } from '../state/opening';
import { useProjectRecords } from '../state/project-list';
import { putBack, takeProject } from '../state/space';
import { colors } from '../theme';
import { ShelfGallery } from '../recipes/shelf-gallery';
import { QueuePanel } from '../render/queue-panel';
import { Lacks } from './lacks';
import { ProjectCard } from './project-card';
import { SpaceSheet } from './space-sheet';
import { Welcome } from './welcome';

/** All projects, the demo, and every way in. */
export function ShelfPage() {
  const { data: projects, error } = useProjectRecords();
  const { enqueueSnackbar, closeSnackbar } = useSnackbar();
  const navigate = useNavigate();
  const [busy, setBusy] = useState<string | null>(null);
  const [showsSpace, setShowsSpace] = useState(false);

  /** Does something that ends with a project, which is opened then; undefined stays here. */
  const attempt = async (words: string, work: () => Promise<string | undefined>) => {
    setBusy(words);
    try {
      const id = await work();
      if (id !== undefined) await navigate(`/project/${id}`);
    } catch (problem) {
      enqueueSnackbar(
        sentenceOf(problem, 'That did not work: the browser gave it up. Try again, or reload the page.'),
        TROUBLE,
      );
    } finally {
      setBusy(null);
    }
  };
  const create = (name: string) => shelve(newProject(freshId(), name, Date.now()));
  const startWith = (files: readonly File[]) => {
    openNextWith({ files: [...files], offersRecipes: true });
    return create(files[0]!.name.replace(/\.[^.]+$/, '') || 'New project');
  };
  /** Reads a project file onto the shelf; undefined for a zip that is none. */
  const readOne = async (file: File): Promise<string | undefined> => {
    const { NoProject, readProjectFile } = await import('../state/project-file');
    try {
      const { id, lost } = await readProjectFile(file);
      if (lost) enqueueSnackbar(`${file.name}: ${lost}`, { ...CAUTION, autoHideDuration: 12_000 });
      return id;
    } catch (problem) {
      // Numbered pictures, perhaps: what else it is, the project it would begin with says.
      if (problem instanceof NoProject && !file.name.endsWith(PROJECT_FILE_EXTENSION)) return undefined;
      enqueueSnackbar(
        `${file.name}: ${sentenceOf(problem, 'It could not be read: it may be damaged. Save it again where it came from.')}`,
        TROUBLE,
      );
      return '';
    }
  };
  /** Project files go on the shelf, all of them; what else there is begins a project. */
  const take = async (files: readonly File[]): Promise<string | undefined> => {
    const others: File[] = [];
    const ids: string[] = [];
    for (const file of files) {
      const read = /\.zip$/i.test(file.name) ? await readOne(file) : undefined;
      if (read === undefined) others.push(file);
      else if (read !== '') ids.push(read);
    }
    if (others.length > 0) return startWith(others);
    if (ids.length === 1) return ids[0];
    if (ids.length > 0) enqueueSnackbar(`${ids.length} projects are on the shelf`);
    return undefined;
  };
  const onDrop = (files: readonly File[]) => {
    if (files.length === 0) return;
    const zips = files.filter((f) => /\.zip$/i.test(f.name)).length;
    void attempt(zips > 1 ? 'Reading the projects' : zips === 1 ? 'Reading the project' : 'Starting', () =>
      take(files),
    );
  };
  usePastedFiles(onDrop);
  const demo = () =>
    void attempt('Fetching the demo', async () => {
      const { id, wasThere } = await openDemo(setBusy);
      if (wasThere) enqueueSnackbar('The demo is on the shelf already: this is it, as it was left.');
      return id;
    });
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    noClick: true,
    noKeyboard: true,
    // Heard wherever the focus is, by `usePastedFiles`.
    noPaste: true,
    onDrop,
  });

  const inAnotherTab = (name: string, what: string) =>
    enqueueSnackbar(`${name} is open in another tab: ${what} it there, or close it first.`, CAUTION);
  const remove = async (record: ProjectRecord) => {
    if (!(await takeProject(record.id))) return inAnotherTab(record.name, 'leave');
    enqueueSnackbar(`${record.name} is deleted`, {
      autoHideDuration: 12000,
      action: (key) => (
        <Button
          color="inherit"
          onClick={() => {
            closeSnackbar(key);
            void putBack(record.id);
          }}
        >
          Undo
        </Button>
      ),
    });
  };
  const duplicate = async (record: ProjectRecord) => {
    // As it is now: another tab may have changed it since the shelf was drawn.
    const now = (await database.projects.get(record.id)) ?? record;
    const document = renameProject({ ...now.document, id: freshId() }, `${now.name.slice(0, 190)}, copy`);
    // Both of its versions; opened, the hidden one is read with the copy's id.
    const { poster, lengthFrames, letter = 'A', other = null } = now;
    await shelve(document, { poster, lengthFrames, letter, other });
  };
  const rename = async (record: ProjectRecord, name: string) => {
    const free = await whileNobodyHas(
      record.id,
      async () => void (await changeProject(record.id, (p) => renameProject(p, name))),
    );
    if (!free) inAnotherTab(record.name, 'rename');
  };

  return (
    <Box
      component="main"
      {...getRootProps({ role: 'main' })}
      sx={{
        minHeight: '100%',
        outline: 'none',
        px: { xs: 3, lg: 6 },
        py: 3.5,
        boxShadow: isDragActive ? `inset 0 0 0 3px ${colors.forward}` : 'none',
      }}
    >
      <title>Shelf · Skip Back</title>
      <input {...getInputProps({ 'aria-label': 'Choose videos or a project file' })} />
      <Box component="header" sx={{ display: 'flex', alignItems: 'center', gap: 1.5, mb: 4 }}>
        <Sign />
        <Box component="h1" sx={{ m: 0, fontSize: 20, fontWeight: 650 }}>
          Skip Back
        </Box>
        <Box sx={{ flex: 1 }} />
        <Box role="status" sx={{ color: colors.quiet, mr: 1 }}>
          {busy}
        </Box>
        <JobsSign />
        <RenderSign />
        <Button color="inherit" onClick={() => setShowsSpace(true)}>
          Storage
        </Button>
        <Button color="inherit" onClick={open} disabled={busy !== null}>
          Import
        </Button>
        <Button color="inherit" onClick={demo} disabled={busy !== null}>
          Open the demo
        </Button>
        <Button
          variant="contained"
          onClick={() => void attempt('Starting', () => create('New project'))}
          disabled={busy !== null}
        >
          New project
        </Button>
      </Box>
      {error && (
        <Box role="alert" sx={{ color: colors.attention, mb: 3 }}>
          {databaseSentence(error)}
        </Box>
      )}
      <Lacks />
      <Box sx={{ maxWidth: 560, mb: 3, '&:empty': { display: 'none' } }}>
        <QueuePanel />
      </Box>
      {projects?.length === 0 ? (
        <Welcome busy={busy} onDemo={demo} onImport={open}>
          <ShelfGallery
            projects={[]}
            columns={3}
            disabled={busy !== null}
            onStart={(work) => void attempt('Starting', work)}
          />
        </Welcome>
      ) : (
        <Box
          component="ul"
          aria-label="Projects"
          sx={{
            m: 0,
            p: 0,
            listStyle: 'none',
            display: 'grid',
            gap: 3,
            gridTemplateColumns: 'repeat(auto-fill, minmax(260px, 1fr))',
          }}
        >
          {projects?.map((record) => (
            <ProjectCard
              key={record.id}
              record={record}
              onOpen={() => void navigate(`/project/${record.id}`)}
              onRename={(name) => void rename(record, name)}
              onDuplicate={() => void duplicate(record)}
              onDelete={() => void remove(record)}
            />
          ))}
        </Box>
      )}
      {showsSpace && <SpaceSheet onClose={() => setShowsSpace(false)} />}
      {projects && projects.length > 0 && (
        <Box sx={{ mt: 5 }}>
          <Box component="h2" sx={{ m: 0, mb: 0.5, fontSize: 16, fontWeight: 600 }}>
            Start from a recipe
          </Box>
          <ShelfGallery
            projects={projects}
            columns={4}
            disabled={busy !== null}
            onStart={(work) => void attempt('Starting', work)}
          />
        </Box>
      )}
    </Box>
  );
}
