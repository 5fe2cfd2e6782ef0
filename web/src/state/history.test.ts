import { newProject } from '@skipback/core/project/new-project';
import { renameProject } from '@skipback/core/project/actions';
import { flip, resetCompare, useCompare } from './compare';
import {
  act,
  beginGesture,
  cancelGesture,
  endGesture,
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
    beginGesture();
    for (const to of ['a', 'b', 'c']) call(to);
    endGesture();
    expect(names()).toEqual(['pier', 'c']);
    undo();
    expect(name()).toBe('pier');
  });

  it('forgets a gesture that was put back, and keeps what could be done again', () => {
    call('tea');
    call('tram');
    undo();
    beginGesture();
    call('x');
    call('y');
    cancelGesture();
    expect(name()).toBe('tea');
    expect(names()).toEqual(['pier', 'tea', 'tram']);
    expect(redo()).toBe('call it tram');
    beginGesture();
    cancelGesture();
    expect(name()).toBe('tram');
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
