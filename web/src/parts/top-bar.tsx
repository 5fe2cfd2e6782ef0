import { Box, ButtonBase, InputBase } from '@mui/material';
import { visuallyHidden } from '@mui/utils';
import { Download } from 'lucide-react';
import { renameProject } from '@skipback/core/project/actions';
import type { Project } from '@skipback/core/project/schema';
import { type ReactNode, useRef } from 'react';
import { Link, NavLink } from 'react-router';
import { CommandButton } from '../commands/command-button';
import { JobsSign } from './jobs-sign';
import { Sign } from './sign';
import { act } from '../state/project-store';
import { useQueue } from '../state/queue';
import { useRendering } from '../state/rendering';
import { useSaving } from '../state/saving';
import { BAR_HEIGHT, colors, mono } from '../theme';

const WORDS = {
  saved: 'Saved',
  saving: 'Saving',
  refused: 'Not saved',
  overtaken: 'Saved in another tab',
} as const;

/** How far the queue is, wherever one works. */
function QueueSign({ to }: { readonly to: string }) {
  const { records, running, left } = useQueue();
  if (!running && left === 0) return null;
  const ended = records.filter((r) => r.state !== 'waiting' && r.state !== 'rendering').length;
  const share = running && running.total > 0 ? ` ${Math.floor((100 * running.done) / running.total)} %` : '';
  return (
    <Box
      component={Link}
      to={to}
      sx={{ color: colors.quiet, fontSize: 12.5, fontFamily: mono, textDecoration: 'none', mr: 1 }}
    >
      {running ? `file ${ended + 1} of ${records.length}${share}` : `${left} left in the queue`}
    </Box>
  );
}

/** The file that is being made, or was made and is not saved yet, wherever one works. */
export function RenderSign() {
  const { project, state } = useRendering();
  const waits = state.kind === 'done' && state.download !== undefined && !state.handed;
  if (!project || (state.kind !== 'running' && !waits)) return null;
  const share =
    state.kind === 'running'
      ? `rendering ${Math.floor((100 * state.done) / Math.max(1, state.total))} %`
      : 'not saved yet';
  return (
    <Box
      component={Link}
      to={`/project/${project.id}/render`}
      data-testid="render-sign"
      title={`${state.name}, of ${project.name}`}
      sx={{
        color: colors.ink,
        fontSize: 12.5,
        fontFamily: mono,
        textDecoration: 'none',
        mr: 1,
        whiteSpace: 'nowrap',
      }}
    >
      {waits ? `${state.name}: ${share}` : share}
    </Box>
  );
}

/** The bar over a project's views: where we are, whether it is safe, what can be done. */
export function TopBar({ project, children }: { readonly project: Project; readonly children: ReactNode }) {
  const { state: saving, why } = useSaving();
  /** Left with Escape: the name stays as it was. */
  const left = useRef(false);
  const tab = (to: string, label: string, end: boolean) => (
    <NavLink to={to} end={end} style={{ textDecoration: 'none' }}>
      {({ isActive }) => (
        <Box
          sx={{
            px: 1.75,
            py: 0.6,
            borderRadius: 2,
            color: isActive ? colors.ink : colors.quiet,
            bgcolor: isActive ? colors.raised : 'transparent',
            fontWeight: 500,
            '&:hover': { color: colors.ink },
          }}
        >
          {label}
        </Box>
      )}
    </NavLink>
  );
  return (
    <Box
      component="header"
      sx={{
        display: 'flex',
        alignItems: 'center',
        gap: 1.25,
        px: 2,
        minHeight: BAR_HEIGHT,
        flexWrap: { xs: 'wrap', md: 'nowrap' },
        flex: 'none',
        borderBottom: `1px solid ${colors.line}`,
      }}
    >
      <ButtonBase
        component={Link}
        to="/"
        aria-label="To the shelf"
        title="To the shelf"
        sx={{ p: 0.5, borderRadius: 1 }}
      >
        <Sign />
      </ButtonBase>
      <InputBase
        key={project.name}
        defaultValue={project.name}
        inputProps={{ 'aria-label': 'Name of the project', dir: 'auto' }}
        onBlur={({ target }) => {
          const name = left.current ? project.name : target.value.trim();
          left.current = false;
          act('rename the project', (p) => renameProject(p, name));
          // Without a name it has the one it had.
          if (name === '' || name === project.name) target.value = project.name;
        }}
        onKeyDown={(event) => {
          if (event.key === 'Enter' || event.key === 'Escape') {
            left.current = event.key === 'Escape';
            (event.target as HTMLInputElement).blur();
          } else if (event.ctrlKey || event.metaKey) return;
          event.stopPropagation();
        }}
        sx={{
          fontWeight: 600,
          fontSize: 15,
          flex: '0 1 auto',
          minWidth: 60,
          width: `${Math.min(26, Math.max(10, project.name.length + 2))}ch`,
          '& input': { py: 0.25, px: 0.5, borderRadius: 1 },
          '& input:hover': { bgcolor: colors.raised },
        }}
      />
      <Box
        role="status"
        title={why ? `${why.sentence} Or save it as a file.` : ''}
        sx={{ fontSize: 12.5, px: 0.5, color: saving === 'refused' ? colors.attention : colors.faint }}
      >
        {WORDS[saving]}
        {why && `: ${why.words}`}
        {why && (
          <Box component="span" sx={visuallyHidden}>
            . {why.sentence} Or save it as a file.
          </Box>
        )}
      </Box>
      <CommandButton id="saveFile" name="Save as a file" size="small">
        <Download size={17} />
      </CommandButton>
      <Box
        component="nav"
        aria-label="Views"
        sx={{ display: 'flex', flex: 'none', gap: 0.25, mx: { xs: 0, md: 1 } }}
      >
        {tab(`/project/${project.id}`, 'Weave', true)}
        {tab(`/project/${project.id}/beats`, 'Beats', false)}
        {tab(`/project/${project.id}/render`, 'Render', false)}
      </Box>
      <Box sx={{ flex: 1 }} />
      <JobsSign />
      <RenderSign />
      <QueueSign to={`/project/${project.id}/render`} />
      {children}
    </Box>
  );
}
