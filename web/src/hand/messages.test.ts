import { heard } from '@skipback/media/heard';
import { HandMessageSchema } from './messages';

const sound = { left: new Float32Array(4), right: new Float32Array(4), rateHz: 48_000 };

it.each([
  ['the sound', { kind: 'sound', sound }],
  ['the hand put down', { kind: 'down', atS: 0 }],
  ['the hand moved before the clip begins', { kind: 'move', atS: -0.2 }],
])('%s is heard by the audio thread', (_, message) => {
  expect(heard(HandMessageSchema, message)).toBe(message);
});

it.each([
  ['nowhere', { kind: 'move', atS: Number.NaN }],
  ['without a sound', { kind: 'sound', sound: null }],
  ['of no known kind', { kind: 'lift', atS: 1 }],
])('a message %s is refused', (_, message) => {
  expect(() => heard(HandMessageSchema, message)).toThrow(/another form than agreed: ./);
});
