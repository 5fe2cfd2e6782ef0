import { DEFAULT_RENDER, type RenderReply, type RenderSettings } from '@skipback/media/render/messages';
import type { RunningRender } from '@skipback/media/render/render-client';
import { create } from 'zustand';

export type RenderState =
  | { readonly kind: 'idle' }
  | {
      readonly kind: 'running';
      readonly done: number;
      readonly total: number;
      readonly framesPerS: number;
      /** Undefined until the first frame is written: the quality is looked for on a sample. */
      readonly picture: ImageBitmap | undefined;
      readonly name: string;
    }
  | (Extract<RenderReply, { kind: 'done' }> & {
      readonly name: string;
      /** The quality it was ordered at. */
      readonly quality: RenderSettings['quality'];
      /** The finished file, to be looked at. */
      readonly file: File;
      /** Hands it to the downloads, where it was not written to a chosen place; `handed` is whether that was done at once. */
      readonly download: (() => void) | undefined;
      readonly handed: boolean;
    })
  | { readonly kind: 'cancelled' }
  | { readonly kind: 'failed'; readonly sentence: string };

/** The one file that is being made, or was made last, whichever view or project is looked at meanwhile. */
interface Rendering {
  readonly project: { readonly id: string; readonly name: string } | undefined;
  readonly state: RenderState;
}

export const useRendering = create<Rendering>(() => ({ project: undefined, state: { kind: 'idle' } }));

/** What files are to be like, by their projects. */
export interface FileWishes {
  readonly settings: RenderSettings;
  readonly withSound: boolean;
}
export const useWishes = create<Readonly<Record<string, FileWishes>>>(() => ({}));
const DEFAULT_WISHES: FileWishes = { settings: DEFAULT_RENDER, withSound: true };

export const fileWishesOf = (projectId: string): FileWishes =>
  useWishes.getState()[projectId] ?? DEFAULT_WISHES;
export const useFileWishes = (projectId: string): FileWishes =>
  useWishes((s) => s[projectId] ?? DEFAULT_WISHES);
export const setFileWishes = (projectId: string, change: Partial<FileWishes>): void =>
  useWishes.setState((s) => ({ [projectId]: { ...(s[projectId] ?? DEFAULT_WISHES), ...change } }));

let running: RunningRender | undefined;

/** Takes the render that is under way, or that there is none any more. */
export const setRunning = (render: RunningRender | undefined): void => void (running = render);
export const isRendering = (): boolean => running !== undefined;
export const cancelRender = (): void => running?.cancel();

/** Whether a file would be lost with the page: one that is being made, or was made and not handed over. */
export const wouldBeLost = ({ state }: Rendering): boolean =>
  state.kind === 'running' || (state.kind === 'done' && state.download !== undefined && !state.handed);

/** The file was handed to the downloads. */
export function markHanded(): void {
  const { state } = useRendering.getState();
  if (state.kind === 'done') useRendering.setState({ state: { ...state, handed: true } });
}

// Closing the tab asks, as long as a file would go with it.
if (typeof window !== 'undefined')
  window.addEventListener('beforeunload', (event) => {
    if (wouldBeLost(useRendering.getState())) event.preventDefault();
  });
