import { sentenceOf } from '../worker-client';
import { makeCopy } from './make-copy';
import { hearing } from '../heard';
import { type CopyReply, CopyRequestSchema } from './messages';

const reply = (message: CopyReply) => self.postMessage(message);

hearing(
  CopyRequestSchema,
  ({ id, clip, first, end }) => {
    makeCopy(clip, first, end, (share) => reply({ id, kind: 'progress', share }))
      .then((film): CopyReply => ({ id, kind: 'copied', film }))
      .catch((error: unknown): CopyReply => {
        return { id, kind: 'failed', sentence: sentenceOf(error, 'This clip cannot be copied just now.') };
      })
      .then(reply);
  },
  (id, sentence) => reply({ id, kind: 'failed', sentence }),
);
