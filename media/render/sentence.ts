import { sentenceOf } from '../worker-client';

/** What is said of a render that failed, wherever it did: where its file is begun, or while it is made. */
export function renderSentence(error: unknown): string {
  if (error instanceof DOMException && error.name === 'QuotaExceededError')
    return 'There is no room left for the file. Free some space, or choose a smaller size, and render again.';
  return sentenceOf(
    error,
    'The render stopped: a clip could not be read, or the encoder gave up. Try another format or a smaller size.',
  );
}
