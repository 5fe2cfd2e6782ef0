import fc from 'fast-check';
import { REST_MS, noteInput } from './input-run';
import { setOpen, useOpen } from './open';
import { select, useSelection } from './selection';
import { newProject } from '@skipback/core/project/new-project';
import { renameProject } from '@skipback/core/project/actions';
import {
  act,
  beginGesture,
  flip,
  historyOf,
  openProject,
  redo,
  stepHistory,
  undo,
  useProjectStore,
} from './project-store';

const name = () => useProjectStore.getState().project!.name;
const call = (to: string) => act(`call it ${to}`, (p) => renameProject(p, to));
const letter = () => useProjectStore.getState().letter;
const names = () => historyOf().entries.map((e) => e.project.name);

beforeEach(() => {
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
    // B begun, B changed, and once back to A.
    expect(names()).toEqual(['pier', 'A', 'A', 'B', 'A']);
    expect(letter()).toBe('B');
  });

  it('the letter shown is what is shown, through any order of changes, flips, undo and redo', () => {
    const step = fc.constantFrom('act', 'act', 'flip', 'undo', 'undo', 'redo');
    fc.assert(
      fc.property(fc.array(step, { maxLength: 30 }), (steps) => {
        openProject(newProject('p', 'pier', 0));
        // Every state as it was when it was made, oldest first; the two versions by their letters.
        let states = [{ letter: 'A', A: 'pier', B: undefined as string | undefined }];
        let now = 0;
        let count = 0;
        const versions = () => {
          const { project, other } = useProjectStore.getState();
          const [shown, hidden] = [project!.name, other?.name];
          return letter() === 'A'
            ? { letter: 'A', A: shown, B: hidden }
            : { letter: 'B', A: hidden, B: shown };
        };
        for (const what of steps) {
          if (what === 'act') {
            call(`n${count++}`);
            const { [letter()]: _, ...before } = states[now]!;
            states = [...states.slice(0, now + 1), { ...before, [letter()]: name() } as (typeof states)[0]];
            now++;
          } else if (what === 'undo') {
            undo();
            now = Math.max(0, now - 1);
          } else if (what === 'redo') {
            redo();
            now = Math.min(states.length - 1, now + 1);
          } else {
            const { letter: was, A, B } = states[now]!;
            const to = flip();
            expect(to).not.toBe(was);
            // The other version, or a copy of this one.
            expect(name()).toBe((to === 'A' ? A : B) ?? (was === 'A' ? A : B));
            const { entries, present } = historyOf();
            states = entries.map((_, i) =>
              i < states.length && i !== present ? states[i]! : (versions() as (typeof states)[0]),
            );
            now = present;
            // There and back again: both are reached.
            flip();
            expect(letter()).toBe(was);
            expect(name()).toBe(was === 'A' ? A : B);
            flip();
            expect(letter()).toBe(to);
          }
          expect(versions()).toMatchObject({ letter: states[now]!.letter });
          expect(name()).toBe(states[now]!.letter === 'A' ? states[now]!.A : states[now]!.B);
        }
      }),
      { numRuns: 300 },
    );
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

describe('where one was', () => {
  it('comes back with what was done there: selection, form and zoom', () => {
    select({ pieceId: 'first', segment: 2 });
    setOpen({ mode: 'curve' });
    call('tea');
    select({ pieceId: 'second', segment: null });
    setOpen({ mode: 'grid' });
    call('tram');
    undo();
    expect([useSelection.getState().pieceId, useOpen.getState().mode]).toEqual(['second', 'grid']);
    undo();
    expect(useSelection.getState()).toMatchObject({ pieceId: 'first', segment: 2 });
    expect(useOpen.getState().mode).toBe('curve');
  });
});

describe('stepping through one value', () => {
  let now = 1000;
  const press = (on: object, ms: number, repeats = true) => {
    now += ms;
    jest.spyOn(performance, 'now').mockReturnValue(now);
    noteInput(on as EventTarget, repeats ? 'keys' : undefined, now);
  };
  const step = (to: string) => act('step it', (p) => renameProject(p, to));
  afterEach(() => jest.restoreAllMocks());

  it('is one step of the history until it rests, and goes on with another value', () => {
    const [one, other] = [{}, {}];
    for (let i = 0; i < 12; i++) {
      press(one, 100);
      step(`a${i}`);
    }
    expect(names()).toEqual(['pier', 'a11']);
    press(one, REST_MS + 1);
    step('b');
    expect(names()).toEqual(['pier', 'a11', 'b']);
    press(other, 50);
    step('c');
    press(other, 50, false);
    step('d');
    press(other, 50);
    step('e');
    expect(names()).toEqual(['pier', 'a11', 'b', 'c', 'd', 'e']);
    undo();
    expect(name()).toBe('d');
  });

  it('goes on from an undo as a thing of its own', () => {
    const one = {};
    press(one, 10);
    step('a');
    undo();
    press(one, 10);
    step('b');
    press(one, 10);
    step('c');
    expect(names()).toEqual(['pier', 'c']);
  });
});
