import type { PreviewReply, PreviewRequest } from '@skipback/media/preview/messages';
import { PreviewClient } from '@skipback/media/preview/preview-client';

/** Times that a picture which died is begun again without being asked, and how long it must have lasted to count anew, milliseconds. */
const MOST_DEATHS = 3;
const LASTED_MS = 30_000;

interface Listener {
  hear(reply: PreviewReply): void;
  /** It is no more; `again` says whether another takes over, once it is given a canvas. */
  died(again: boolean): void;
  /** Another took over, with the same clips and of the same size. */
  returned(): void;
  /** Its canvas was taken away. */
  left(): void;
}

/** The worker that draws the picture. One that dies is replaced by another, which is told what that one knew. */
export class KeptPicture {
  private client: PreviewClient | undefined;
  private readonly told = new Map<'clips' | 'resize', PreviewRequest>();
  /** Set while the picture that died is replaced. */
  private replacing = false;
  private deaths = 0;
  private begunAt = 0;

  constructor(private readonly listener: Listener) {}

  /** Whether there is a worker to be told something. */
  get isThere(): boolean {
    return this.client !== undefined;
  }

  /** Begins a worker that draws into `canvas`. Gives what ends it. */
  connect(canvas: HTMLCanvasElement): () => void {
    const client = (this.client = new PreviewClient(
      canvas,
      (reply) => this.listener.hear(reply),
      () => this.died(),
    ));
    this.begunAt = performance.now();
    if (this.replacing) {
      this.replacing = false;
      for (const request of this.told.values()) client.send(request);
      this.listener.returned();
    }
    return () => {
      client.close();
      if (this.client === client) this.client = undefined;
      if (this.replacing) return;
      this.told.clear();
      this.listener.left();
    };
  }

  /** Tells it something; clips and size are told again to one that takes over. */
  send(request: PreviewRequest): void {
    if (request.kind === 'clips' || request.kind === 'resize') this.told.set(request.kind, request);
    this.client?.send(request);
  }

  private died(): void {
    this.deaths = performance.now() - this.begunAt > LASTED_MS ? 1 : this.deaths + 1;
    this.replacing = this.deaths <= MOST_DEATHS;
    this.listener.died(this.replacing);
  }
}
