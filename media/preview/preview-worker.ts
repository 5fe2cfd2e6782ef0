import { hearing } from '../heard';
import { type PreviewReply, type PreviewRequest, PreviewRequestSchema } from './messages';
import { PixelPool } from '../pixels/pixel-pool';
import { Player } from './player';
import { sentenceOf } from '../worker-client';
import { Screen } from './screen';

const tell = (reply: PreviewReply) => self.postMessage(reply);

let player: Player | undefined;
/** Requests are carried out one after another; a newer still overtakes the ones still waiting. */
let queue: Promise<void> = Promise.resolve();
let newest = 0;

async function carryOut(request: Exclude<PreviewRequest, { kind: 'clock' }>, turn: number): Promise<void> {
  if (request.kind === 'attach') {
    const pool = new PixelPool(request.threads);
    const screen = new Screen(request.canvas, (length) => pool.sourceBytes(length));
    player = new Player(screen, request.budgetBytes, tell, pool);
    return;
  }
  if (!player) return;
  if (request.kind === 'resize') await player.resize(request.width, request.height, request.projectWidth);
  else if (request.kind === 'clips') await player.setClips(request.clips);
  else if (request.kind === 'result') await player.setResult(request);
  else if (request.kind === 'poster') await player.poster();
  else if (request.kind === 'motion') await player.setMoves(request.moves, request.position);
  else if (request.kind === 'try-looks') await player.tryLooks(request.width);
  else if (turn !== newest) return;
  else if (request.kind === 'play')
    await player.play(request.from, request.step, request.first, request.end, request.loops, request.pace);
  else if (request.kind === 'still-result') await player.stillResult(request.position);
  else await player.stillSource(request.clipPlace, request.frame);
}

hearing(
  PreviewRequestSchema,
  (data) => {
    // The clock is moved at once: what waits in the queue may be the very playing it is for.
    if (data.kind === 'clock') return player?.shiftClock(data.byMs);
    const shows = data.kind === 'play' || data.kind === 'still-result' || data.kind === 'still-source';
    const turn = shows ? ++newest : newest;
    queue = queue
      .then(() => carryOut(data, turn))
      .catch((error: unknown) => {
        tell({ kind: 'trouble', sentence: sentenceOf(error, 'The picture stopped; play again.') });
        tell({ kind: 'ended' });
      });
  },
  (_, sentence) => tell({ kind: 'trouble', sentence }),
);
