import { Box } from '@mui/material';
import type { Project } from '@skipback/core/project/schema';
import { CircleQuestionMark, History, Redo2, Undo2 } from 'lucide-react';
import { type ReactNode, useEffect, useRef, useState } from 'react';
import { useLocation, useNavigate } from 'react-router';
import { HistorySheet } from './bench/history-sheet';
import { VersionFlip } from './bench/version-flip';
import { CommandButton } from './commands/command-button';
import { useCommands } from './commands/use-commands';
import { commandFinds } from './finder/command-finds';
import { Finder, FinderField } from './finder/finder';
import { openFinder, useFinds } from './finder/finds';
import { HelpSheet } from './help/help-sheet';
import { useSaying } from './notices';
import { DropZone } from './parts/drop-zone';
import { TopBar } from './parts/top-bar';
import { useClips } from './state/library';
import { flip, redo, undo, useCanRedo, useCanUndo } from './state/project-store';
import { projectNames } from './state/project-list';
import { useSaveFile } from './state/use-save-file';

const VIEWS = { '': 'Weave', '/beats': 'Beats', '/render': 'Render' } as const;

const [NO_UNDO, NO_REDO] = ['Nothing to undo', 'Nothing to redo'];
const said = (words: string, change: string | undefined, none: string): string =>
  change === undefined ? none : `${words}: ${change}`;
const takeBack = () => said('Undo', undo(), NO_UNDO);
const doAgain = () => said('Redo', redo(), NO_REDO);

/** What all views of a project have: the bar, its commands, help and history, and a place to drop files. */
export function ProjectFrame({
  project,
  children,
}: {
  readonly project: Project;
  readonly children: ReactNode;
}) {
  const navigate = useNavigate();
  const { pathname } = useLocation();
  const home = `/project/${project.id}`;
  const view = VIEWS[pathname.slice(home.length).replace(/\/$/, '') as keyof typeof VIEWS] ?? 'Weave';
  const [help, setHelp] = useState(false);
  const [history, setHistory] = useState<HTMLElement | null>(null);
  const historyButton = useRef<HTMLButtonElement>(null);
  const saveFile = useSaveFile(project);
  const [canUndo, canRedo] = [useCanUndo(), useCanRedo()];
  const to = (path: string) => () => void navigate(path);
  useCommands({
    undo: canUndo ? takeBack : { why: NO_UNDO, asks: takeBack },
    redo: canRedo ? doAgain : { why: NO_REDO, asks: doAgain },
    history: () => setHistory(historyButton.current),
    flip: () => `Version ${flip()}`,
    help: () => setHelp(true),
    find: () => openFinder(),
    saveFile,
    toShelf: to('/'),
    ...(view !== 'Weave' && { toWeave: to(home) }),
    ...(view !== 'Beats' && { toBeats: to(`${home}/beats`) }),
    ...(view !== 'Render' && { render: to(`${home}/render`) }),
  });
  const say = useSaying();
  useFinds(() => [
    ...commandFinds(say),
    ...projectNames()
      .filter((other) => other.id !== project.id)
      .map(({ id, name }) => ({
        ...{ id: `project ${id}`, kind: 'project' as const, name, says: 'Open it' },
        run: to(`/project/${id}`),
      })),
  ]);
  const main = useFocusOnView(pathname);
  return (
    <DropZone says={view !== 'Weave'}>
      <title>{`${project.name} · ${view} · Skip Back`}</title>
      <Box sx={{ display: 'flex', flexDirection: 'column', height: '100%' }}>
        <TopBar project={project}>
          <FinderField />
          <Box role="group" aria-label="What was done" sx={{ display: 'flex', alignItems: 'center' }}>
            <CommandButton id="undo">
              <Undo2 size={18} />
            </CommandButton>
            <CommandButton id="redo">
              <Redo2 size={18} />
            </CommandButton>
            <CommandButton id="history" name="History" ref={historyButton}>
              <History size={18} />
            </CommandButton>
            <VersionFlip />
          </Box>
          <CommandButton id="help">
            <CircleQuestionMark size={18} />
          </CommandButton>
        </TopBar>
        <Box
          ref={main}
          component="main"
          tabIndex={-1}
          sx={{ display: 'flex', flexDirection: 'column', flex: 1, minHeight: 0, outline: 'none' }}
        >
          {children}
        </Box>
      </Box>
      <HistoryOf project={project} anchor={history} onClose={() => setHistory(null)} />
      <Finder />
      <HelpSheet open={help} onClose={() => setHelp(false)} />
    </DropZone>
  );
}

function HistoryOf(props: {
  readonly project: Project;
  readonly anchor: HTMLElement | null;
  readonly onClose: () => void;
}) {
  const clips = useClips(props.project);
  return <HistorySheet anchor={props.anchor} clips={clips} onClose={props.onClose} />;
}

/** Goes into a view that was gone to, so that Tab goes on there; not into the one that was opened. */
function useFocusOnView(pathname: string) {
  const main = useRef<HTMLElement>(null);
  const before = useRef(pathname);
  useEffect(() => {
    if (before.current === pathname) return;
    before.current = pathname;
    main.current?.focus({ preventScroll: true });
  }, [pathname]);
  return main;
}
