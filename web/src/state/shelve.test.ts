import { whyNotKept } from './shelve';

it.each([
  [new DOMException('no', 'QuotaExceededError'), 'storage is full', /Storage on the shelf/],
  [new DOMException('gone', 'NotReadableError'), 'a file cannot be read', /choose it again/],
  [new RangeError('Array buffer allocation failed'), 'no memory left', /close other pages/],
  [new DOMException('no', 'SecurityError'), 'storage is switched off', /allow storage/],
  [new Error('The tape ran out'), 'the browser refused', /The tape ran out/],
  [undefined, 'the browser refused', /nothing more/],
])('why a write failed is said as it is, with a way out', (problem, words, sentence) => {
  expect(whyNotKept(problem).words).toBe(words);
  expect(whyNotKept(problem).sentence).toMatch(sentence);
});
