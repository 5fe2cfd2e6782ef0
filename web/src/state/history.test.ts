import fc from 'fast-check';
import { newProject } from '@skipback/core/project/new-project';
import { renameProject } from '@skipback/core/project/actions';
import { flip, resetCompare, useCompare } from './compare';
import {
  act,
  beginGesture,
  historyOf,
  openProject,
  redo,
  stepHistory,
  undo,
  useProjectStore,
} from './project-store';

const name = () => useProjectStore.getState().project!.name;
const call = (to: string) => act(`call it ${to}`, (p) => renameProject(p, to));
const names = () => historyOf().entries.map((e) => e.project.name);

beforeEach(() => {
  resetCompare();
  openProject(newProject('p', 'pier', 0));
});

describe('the history of a project', () => {
  it('takes back and does again, naming what', () => {
    call('tea');
    call('tram');
    expect(undo()).toBe('call it tram');
    expect(name()).toBe('tea');
    expect(redo()).toBe('call it tram');
    expect(name()).toBe('tram');
    expect(redo()).toBeUndefined();
  });

  it('has no step for a change that changes nothing', () => {
    call('pier');
    expect(undo()).toBeUndefined();
  });

  it('holds a gesture as one step', () => {
    const gesture = beginGesture();
    for (const to of ['a', 'b', 'c']) call(to);
    gesture.end();
    expect(names()).toEqual(['pier', 'c']);
    undo();
    expect(name()).toBe('pier');
  });

  it('forgets a gesture that was put back, and keeps what could be done again', () => {
    call('tea');
    call('tram');
    undo();
    const gesture = beginGesture();
    call('x');
    call('y');
    gesture.cancel();
    expect(name()).toBe('tea');
    expect(names()).toEqual(['pier', 'tea', 'tram']);
    expect(redo()).toBe('call it tram');
    beginGesture().cancel();
    expect(name()).toBe('tram');
  });

  it('a gesture is over once: nothing that comes after is taken back with it', () => {
    const first = beginGesture();
    call('dragged');
    first.end();
    call('added');
    first.cancel();
    first.end();
    expect(names()).toEqual(['pier', 'dragged', 'added']);
    // One that was never let go ends where the next begins.
    beginGesture();
    call('held');
    const next = beginGesture();
    call('next');
    next.cancel();
    expect(name()).toBe('held');
    expect(names()).toEqual(['pier', 'dragged', 'added', 'held']);
  });

  it('an undo in the middle of a gesture takes back what was dragged, and what follows is its own', () => {
    call('hold');
    const gesture = beginGesture();
    call('dragged');
    expect(undo()).toBe('call it dragged');
    call('on');
    gesture.end();
    expect(names()).toEqual(['pier', 'hold', 'on']);
    expect(undo()).toBe('call it on');
    expect(name()).toBe('hold');
  });

  it('stays whole through any order of gestures, changes, undo and redo', () => {
    const step = fc.constantFrom('begin', 'end', 'cancel', 'act', 'act', 'undo', 'redo', 'begin again');
    fc.assert(
      fc.property(fc.array(step, { maxLength: 40 }), (steps) => {
        openProject(newProject('p', 'pier', 0));
        // What the history must be, kept beside it in the plainest way.
        let past: string[] = ['pier'];
        let future: string[] = [];
        let gesture: ReturnType<typeof beginGesture> | undefined;
        let open: { from: string[]; future: string[]; recorded: boolean } | undefined;
        let count = 0;
        for (const what of steps) {
          if (what === 'begin' || what === 'begin again') {
            gesture = beginGesture();
            open = { from: past, future, recorded: false };
          } else if (what === 'act') {
            const to = `n${count++}`;
            call(to);
            past = open?.recorded ? [...past.slice(0, -1), to] : [...past, to];
            if (!open?.recorded) future = [];
            if (open) open.recorded = true;
          } else if (what === 'end') {
            gesture?.end();
            open = undefined;
          } else if (what === 'cancel') {
            gesture?.cancel();
            if (open?.recorded) [past, future] = [open.from, open.future];
            open = undefined;
          } else if (what === 'undo') {
            open = undefined;
            undo();
            if (past.length > 1) [past, future] = [past.slice(0, -1), [past.at(-1)!, ...future]];
          } else {
            open = undefined;
            redo();
            if (future.length > 0) [past, future] = [[...past, future[0]!], future.slice(1)];
          }
          expect(names()).toEqual([...past, ...future]);
          expect(name()).toBe(past.at(-1));
        }
        gesture?.end();
      }),
      { numRuns: 400 },
    );
  });

  it('is gone through by steps, in pictures', () => {
    for (const to of ['a', 'b', 'c']) call(to);
    expect(historyOf().present).toBe(3);
    stepHistory(-2);
    expect(name()).toBe('a');
    expect(historyOf().present).toBe(1);
    expect(names()).toEqual(['pier', 'a', 'b', 'c']);
    stepHistory(1);
    expect(name()).toBe('b');
  });
});

describe('two versions', () => {
  it('begin alike, and flip back and forth without growing the history', () => {
    call('A');
    expect(flip()).toBe('B');
    expect(name()).toBe('A');
    call('B');
    for (const wanted of ['A', 'B', 'A', 'B']) {
      flip();
      expect(name()).toBe(wanted);
    }
    expect(names()).toEqual(['pier', 'A', 'B']);
    expect(useCompare.getState().which).toBe('B');
  });

  it('are both kept when each goes on changing', () => {
    flip();
    call('B1');
    call('B2');
    flip();
    call('A1');
    flip();
    expect(name()).toBe('B2');
    flip();
    expect(name()).toBe('A1');
  });
});
