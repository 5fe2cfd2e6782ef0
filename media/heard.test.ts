import { heard, hearing } from './heard';
import { ImportRequestSchema } from './import/messages';
import { PreviewReplySchema, PreviewRequestSchema } from './preview/messages';
import { PixelRequestSchema } from './pixels/pixel-messages';
import { RenderReplySchema } from './render/messages';

const play = { kind: 'play', from: 3, step: -2, first: 0, end: 90, loops: true, pace: 0.5 };

it('a message is given as it came, with what its form does not name', () => {
  const message = { ...play, beside: 1 };
  expect(heard(PreviewRequestSchema, message)).toBe(message);
  const shown = { kind: 'ready', spans: [[0, 4]], motion: undefined };
  expect(heard(PreviewReplySchema, shown)).toBe(shown);
});

it.each([
  ['no object', PreviewRequestSchema, 'play'],
  ['of no known kind', PreviewRequestSchema, { ...play, kind: 'paly' }],
  ['with a place that is none', PreviewRequestSchema, { ...play, from: Number.NaN }],
  ['with a place before the first', PreviewRequestSchema, { kind: 'still-result', position: -1 }],
  ['with nothing to draw', PixelRequestSchema, { kind: 'draw', id: 1, job: null, bytes: new Uint8Array(4) }],
  ['without the clip', ImportRequestSchema, { kind: 'thumbnails', id: 4 }],
  ['with a sentence that is none', RenderReplySchema, { kind: 'failed', sentence: { toString: 1 } }],
])('a message %s is refused, saying what is wrong with it', (_, schema, message) => {
  expect(() => heard<unknown>(schema, message)).toThrow(/another form than agreed: ./);
});

it('a worker that is told something it cannot read says so and lives', () => {
  const scope = new EventTarget();
  const done: unknown[] = [];
  const said: unknown[] = [];
  const errors = jest.spyOn(console, 'error').mockImplementation(() => undefined);
  hearing(
    PreviewRequestSchema,
    (m) => done.push(m),
    (id, sentence) => said.push([id, sentence]),
    scope,
  );
  const tell = (data: unknown) => scope.dispatchEvent(Object.assign(new Event('message'), { data }));
  tell({ kind: 'still-result', position: 186.00000000000003, id: 7 });
  tell(null);
  tell({ kind: 'still-result', position: 186 });
  expect(said).toEqual([
    [7, expect.stringMatching(/nothing was done/)],
    [0, expect.stringMatching(/nothing was done/)],
  ]);
  expect(done).toEqual([{ kind: 'still-result', position: 186 }]);
  expect(errors).toHaveBeenCalledTimes(2);
  errors.mockRestore();
});
