import { parseAmount } from '@skipback/core/time/amount';
import { Box } from '@mui/material';
import { projectMusic } from '@skipback/core/project/compile';
import type { Project } from '@skipback/core/project/schema';
import { wholeBeats } from '@skipback/core/sound/loop-safe';
import { rateText, toNumber } from '@skipback/core/time/rational';
import { formatTimecode } from '@skipback/core/time/timecode';
import { frame } from '@skipback/core/time/units';
import { FILE_KINDS, filmKindOf, soundCodecOf } from '@skipback/media/render/encoders';
import { fileSize } from '@skipback/media/frames/file-size';
import {
  type FilmFormat,
  type RenderSettings,
  holdsTransparency,
  isFilm,
} from '@skipback/media/render/messages';
import { PICTURE_KINDS, pictureKind } from '@skipback/media/render/pictures/kinds';
import { useQuery } from '@tanstack/react-query';
import { ChoiceField } from '../parts/choice-field';
import { Line } from '../parts/line';
import { ValueField } from '../parts/value-field';
import { colors, mono } from '../theme';

const QUALITY_WORDS = [
  { value: 'draft', label: 'draft, small file' },
  { value: 'good', label: 'good' },
  { value: 'high', label: 'high' },
  { value: 'finest', label: 'finest, large file' },
];

const DITHERS = [
  { value: 'none', label: 'none' },
  { value: 'pattern', label: 'ordered pattern' },
  { value: 'diffused', label: 'error diffusion' },
];

/** Widths that animated pictures are mostly wanted in. */
const SMALL_WIDTHS = [640, 480, 360, 240];
/** The width they begin with. */
const USUAL_WIDTH = 480;

/** Lengths that files are often kept to, seconds. */
const LIMITS_S = [6, 10, 15, 30, 60, 90, 180, 600];

interface Props {
  readonly project: Project;
  readonly settings: RenderSettings;
  /** Kinds of film that can be made here; undefined until that is known. */
  readonly films: readonly FilmFormat[] | undefined;
  /** Pictures the file gets, and frames of the project they last for. */
  readonly pictures: number;
  readonly frames: number;
  readonly heard: boolean;
  /** Whether some of what it shows is transparent. */
  readonly transparent: boolean;
  readonly withSound: boolean;
  onChange(settings: RenderSettings): void;
  onSound(withSound: boolean): void;
}

/** What kind of file, how large, how good: each value where it stands. */
export function FileSettings(props: Props) {
  const { project, settings, films, pictures, frames, onChange } = props;
  const { format } = settings;
  const set = (change: Partial<RenderSettings>) => onChange({ ...settings, ...change });
  const kind = isFilm(format) ? undefined : pictureKind(format);
  const kinds = [
    ...FILE_KINDS.map((k) => ({
      value: k.id as string,
      label: films && !films.includes(k.id) ? `${k.label} (not in this browser)` : k.label,
    })),
    ...PICTURE_KINDS.map((k) => ({ value: k.id as string, label: k.label })),
  ];
  const change = (next: RenderSettings['format']) => {
    if (next === format) return;
    const loops = !isFilm(next) && pictureKind(next).loops;
    const small = Math.min(1, USUAL_WIDTH / project.size.width);
    const rateHz = toNumber(project.rate);
    const mostHz = isFilm(next) ? Infinity : pictureKind(next).mostHz;
    onChange({
      ...settings,
      format: next,
      every: Math.max(1, Math.ceil(rateHz / mostHz)),
      ...(loops ? { loops: 1, scale: small } : !isFilm(format) && { scale: 1 }),
    });
  };
  const widths = kind?.loops ? SMALL_WIDTHS.filter((w) => w < project.size.width) : [];
  const scales = [...new Set([1, 0.75, 0.5, ...widths.map((w) => w / project.size.width), settings.scale])];
  const sizes = scales
    .sort((a, b) => b - a)
    .map((scale) => {
      const s = fileSize(project.size.width, project.size.height, scale);
      return { value: String(scale), label: `${s.width}×${s.height}` };
    });
  const rateHz = toNumber(project.rate);
  return (
    <Box sx={{ bgcolor: colors.panel, borderRadius: 2, p: 2 }}>
      <Line tall label="File">
        <ChoiceField
          label="File"
          value={format}
          options={kinds}
          onChange={(v) => change(v as RenderSettings['format'])}
        />
      </Line>
      <Line tall label="Size">
        <ChoiceField
          label="Size"
          value={String(settings.scale)}
          options={sizes}
          onChange={(v) => set({ scale: Number(v) })}
        />
      </Line>
      {kind ? (
        <Line tall label="Pictures">
          <ChoiceField
            label="Pictures"
            value={String(settings.every)}
            options={[1, 2, 3, 4, 5]
              .filter((n) => rateHz / n <= kind.mostHz)
              .map((n) => ({
                value: String(n),
                label: `${Number((rateHz / n).toFixed(2))} a second${n === 1 ? '' : `, every ${['second', 'third', 'fourth', 'fifth'][n - 2]}`}`,
              }))}
            onChange={(v) => set({ every: Number(v) })}
          />
        </Line>
      ) : (
        <Line tall label="Quality">
          <ChoiceField
            label="Quality"
            value={settings.quality}
            options={QUALITY_WORDS}
            onChange={(v) => set({ quality: v as RenderSettings['quality'] })}
          />
        </Line>
      )}
      {format === 'gif' && (
        <>
          <Line tall label="Colours">
            <ChoiceField
              label="Colours"
              value={String(settings.colours)}
              options={[256, 128, 64, 32, 16].map((n) => ({ value: String(n), label: `${n}, one palette` }))}
              onChange={(v) => set({ colours: Number(v) as RenderSettings['colours'] })}
            />
          </Line>
          <Line tall label="Dither">
            <ChoiceField
              label="Dither"
              value={settings.dither}
              options={DITHERS}
              hint="What stands for a colour that the palette does not have"
              onChange={(v) => set({ dither: v as RenderSettings['dither'] })}
            />
          </Line>
        </>
      )}
      {props.transparent && (
        <Line tall label="Transparent parts">
          {holdsTransparency(format) ? (
            <ChoiceField
              label="Transparent parts"
              value={settings.transparent ? 'kept' : 'black'}
              options={[
                { value: 'kept', label: 'transparent in the file' },
                { value: 'black', label: 'black' },
              ]}
              hint="Of clips that are transparent in part. What moves or blurs the picture moves it too; colours and what is laid over do not change it."
              onChange={(v) => set({ transparent: v === 'kept' })}
            />
          ) : (
            <Box sx={{ color: colors.quiet, textAlign: 'right' }}>
              black; WebM VP9, APNG and PNG keep them
            </Box>
          )}
        </Line>
      )}
      <Line tall label="Times it plays">
        {kind?.loops ? (
          <Box sx={{ fontFamily: mono, color: colors.quiet }}>for ever, by itself</Box>
        ) : (
          <ValueField
            label="Times it plays"
            text={String(settings.loops)}
            onEnter={(typed) => {
              const n = parseAmount(typed, { least: 1, most: 1000, whole: true });
              if (typeof n === 'string') return n;
              set({ loops: n });
              return true;
            }}
            onStep={(by) => set({ loops: Math.min(1000, Math.max(1, settings.loops + by)) })}
          />
        )}
      </Line>
      <Line tall label="Length">
        <Box sx={{ fontFamily: mono }}>
          {pictures} f = {formatTimecode(frame(frames), project.rate)} at {rateText(project.rate)}
        </Box>
      </Line>
      <Line tall label="Warn if longer than">
        <ChoiceField
          label="Warn if longer than"
          value={String(settings.mostS ?? '')}
          options={[
            { value: '', label: 'off' },
            ...LIMITS_S.map((s) => ({ value: String(s), label: s < 120 ? `${s} s` : `${s / 60} min` })),
          ]}
          hint="For places that take films up to a length. Nothing is cut: it only warns."
          onChange={(v) => set({ mostS: v === '' ? null : Number(v) })}
        />
      </Line>
      {settings.mostS !== null && frames > settings.mostS * rateHz && (
        <Box role="alert" sx={{ color: colors.attention, fontSize: 12.5, textAlign: 'right' }}>
          {tooLong(frames - settings.mostS * rateHz, rateHz)} too long. Fit makes a chain as long as you say.
        </Box>
      )}
      <SoundRow {...props} />
    </Box>
  );
}

const tooLong = (frames: number, rateHz: number): string =>
  `${Number((frames / rateHz).toFixed(2))} s (${Math.ceil(frames)} f)`;

function SoundRow({ project, settings, frames, heard, withSound, onChange, onSound }: Props) {
  const film = isFilm(settings.format);
  const { data: codec } = useQuery({
    queryKey: ['sound-codec', settings.format],
    enabled: film,
    queryFn: async () => (await soundCodecOf(filmKindOf(settings))) ?? null,
  });
  const length = frames / settings.loops;
  const whole = wholeBeats(projectMusic(project), length);
  const left = whole && whole.beats > 0 ? Math.round(length - whole.endFrame) : 0;
  return (
    <>
      <Line tall label="Sound">
        {!heard || !film ? (
          <Box sx={{ fontFamily: mono, color: colors.quiet }}>none, picture only</Box>
        ) : (
          <ChoiceField
            label="Sound"
            value={!withSound ? 'none' : settings.loopSafe ? 'loop' : 'mix'}
            options={[
              { value: 'mix', label: codec ? `the mix, ${codec.toUpperCase()}` : 'the mix' },
              { value: 'loop', label: 'the mix, made to loop' },
              { value: 'none', label: 'none, picture only' },
            ]}
            onChange={(v) => {
              onSound(v !== 'none');
              onChange({ ...settings, loopSafe: v === 'loop' });
            }}
          />
        )}
      </Line>
      {heard && film && withSound && settings.loopSafe && (
        <Box sx={{ color: colors.quiet, fontSize: 12.5, textAlign: 'right' }}>
          {!whole
            ? 'It starts and ends without a click.'
            : left > 0
              ? `${whole.beats} whole beats are heard, the last ${left} f are silent. Fit makes the picture whole beats.`
              : `${whole.beats} whole beats, without a click where they meet.`}
        </Box>
      )}
    </>
  );
}
