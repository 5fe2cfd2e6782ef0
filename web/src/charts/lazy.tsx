import { Box } from '@mui/material';
import { type ComponentProps, Suspense, lazy } from 'react';
import type { Along as AlongNow } from './along';
import type { EnvelopeShape as EnvelopeNow } from './envelope-shape';
import type { SizeBars as SizesNow } from './size-bars';

// What draws charts is large: it comes when the first one is seen.
const Along_ = lazy(async () => ({ default: (await import('./along')).Along }));
const Envelope_ = lazy(async () => ({ default: (await import('./envelope-shape')).EnvelopeShape }));
const Sizes_ = lazy(async () => ({ default: (await import('./size-bars')).SizeBars }));

const room = (height: number) => <Box sx={{ height }} />;

export const Along = (props: ComponentProps<typeof AlongNow>) => (
  <Suspense fallback={room(134)}>
    <Along_ {...props} />
  </Suspense>
);

export const EnvelopeShape = (props: ComponentProps<typeof EnvelopeNow>) => (
  <Suspense fallback={room(92)}>
    <Envelope_ {...props} />
  </Suspense>
);

export const SizeBars = (props: ComponentProps<typeof SizesNow>) => (
  <Suspense fallback={room(28 * props.rows.length)}>
    <Sizes_ {...props} />
  </Suspense>
);
