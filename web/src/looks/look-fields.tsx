import { useFirst } from '../state/counting';
import { parseAmount } from '@skipback/core/time/amount';
import { Box, Button, ButtonBase } from '@mui/material';
import { readCube, writeCube, type ColourTable, MOST_CUBE_BYTES } from '@skipback/core/looks/cube';
import { type Driver, isDriver } from '@skipback/core/looks/driver';
import type { Project } from '@skipback/core/project/schema';
import type { LookField } from '@skipback/core/looks/treatment';
import { driverWords } from '@skipback/core/looks/words';
import { useRef, useState } from 'react';
import { ChoiceField } from '../parts/choice-field';
import { ValueField } from '../parts/value-field';
import { download } from '../state/download';
import { toggleInside, useInside } from '../state/inside';
import { select } from '../state/selection';
import { colors, mono } from '../theme';
import { ClipField } from './clip-field';
import { DriverCurve } from './driver-curve';
import type { Ground } from './ground';

interface Props {
  readonly name: string;
  readonly field: LookField;
  readonly value: unknown;
  readonly ground: Ground;
  /** The clip that is treated. */
  readonly clipId: string | undefined;
  /** The look was added just now. */
  readonly isFresh: boolean;
  readonly onChange: (value: unknown) => void;
  /** The project with another value, for what comes with a clip of its own. */
  readonly put: (project: Project, value: unknown) => Project;
}

/** One value of a look: a number or what moves it, a choice, a colour, a colour table. */
export function LookFieldEditor({ name, field, value, ground, clipId, isFresh, onChange, put }: Props) {
  const label = `${name}: ${field.label}`;
  if (field.kind === 'choice')
    return (
      <ChoiceField
        label={label}
        value={String(value)}
        options={field.options}
        onChange={onChange}
        hint={field.help}
      />
    );
  if (field.kind === 'colour')
    return (
      <input
        type="color"
        aria-label={label}
        title={field.help}
        value={String(value)}
        onChange={(event) => onChange(event.target.value)}
        style={{ width: 44, height: 22, padding: 0, border: 0, background: 'none' }}
      />
    );
  if (field.kind === 'clip')
    return (
      <ClipField
        label={label}
        value={String(value)}
        hint={field.help}
        own={field.own}
        of={clipId}
        makesPlate={isFresh && field.own}
        onChange={onChange}
        put={put}
      />
    );
  if (field.kind === 'table')
    return <TableField label={label} table={value as ColourTable | null} onChange={onChange} />;
  return (
    <DrivenNumber
      label={label}
      field={field}
      value={value as number | Driver}
      ground={ground}
      onChange={onChange}
    />
  );
}

const UNITS = { '%': ' %', px: ' px', '°': '°', f: ' f', '×': '', st: ' st', '/s': '/s', dB: ' dB' } as const;

/** A number, and beside it the curve of what moves it; pressing that opens it. */
export function DrivenNumber({
  label,
  field,
  value,
  ground,
  width = 74,
  onChange,
}: {
  readonly label: string;
  readonly width?: number;
  readonly field: Extract<LookField, { kind: 'number' }>;
  readonly value: number | Driver;
  readonly ground: Ground;
  readonly onChange: (value: number | Driver) => void;
}) {
  const opened = useInside(ground.card) === field.key;
  const driver = isDriver(value) ? value : undefined;
  const clamp = (n: number) => Math.min(field.max, Math.max(field.min, n));
  const step = field.max - field.min <= 20 ? 0.5 : 1;
  const first = useFirst();
  const called = field.numbered ? first : 0;
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.75 }}>
      {typeof value === 'number' && (
        <ValueField
          label={label}
          text={`${Number((value + called).toFixed(2))}${UNITS[field.unit]}`}
          hint={field.help}
          width={width}
          onEnter={(typed) => {
            const n = parseAmount(typed, {
              unit: UNITS[field.unit].trim(),
              least: field.min + called,
              most: field.max + called,
            });
            if (typeof n === 'string') return n;
            onChange(n - called);
            return true;
          }}
          fine
          onStep={(by) => onChange(clamp(Number((value + by * step).toFixed(2))))}
        />
      )}
      <ButtonBase
        aria-label={`What moves ${label}`}
        title="What moves it"
        aria-expanded={opened}
        data-opens={`${ground.card} ${field.key}`}
        onClick={() => {
          select({ drivenKey: field.key });
          toggleInside(ground.card, field.key);
        }}
        sx={{
          borderRadius: 1,
          px: 0.25,
          gap: 0.5,
          minWidth: 24,
          minHeight: 24,
          color: driver ? colors.ink : colors.quiet,
          '&:hover': { color: colors.ink },
        }}
      >
        {driver ? (
          <>
            <Box component="span" sx={{ fontFamily: mono, fontSize: 12 }}>
              {driverWords(driver)}
            </Box>
            <DriverCurve
              driver={driver}
              facts={ground.facts}
              stretches={ground.stretches}
              width={46}
              height={18}
            />
          </>
        ) : (
          <svg width="18" height="14" aria-hidden="true">
            <path d="M1 10C5 10 5 3 9 3S13 10 17 10" fill="none" stroke="currentColor" strokeWidth="1.4" />
          </svg>
        )}
      </ButtonBase>
    </Box>
  );
}

/** A colour table: read from a .cube file, saved as one, taken away. */
function TableField({
  label,
  table,
  onChange,
}: {
  readonly label: string;
  readonly table: ColourTable | null;
  readonly onChange: (table: ColourTable | null) => void;
}) {
  const input = useRef<HTMLInputElement>(null);
  const [trouble, setTrouble] = useState<string>();
  const read = async (file: File) => {
    setTrouble(undefined);
    if (file.size > MOST_CUBE_BYTES) return setTrouble(`${file.name} is too large for a colour table.`);
    const result = readCube(await file.text(), file.name);
    if (result.ok) onChange(result.table);
    else setTrouble(result.sentence);
  };
  return (
    <Box sx={{ textAlign: 'right' }}>
      <input
        ref={input}
        type="file"
        accept=".cube"
        hidden
        aria-label={`${label}, choose a file`}
        onChange={(event) => {
          const file = event.target.files?.[0];
          event.target.value = '';
          if (file) void read(file);
        }}
      />
      {table && (
        <Box sx={{ fontFamily: mono, fontSize: 12.5, overflowWrap: 'anywhere' }}>
          {table.name}, {table.kind === '1d' ? 'one dimension' : `${table.size}³`}
        </Box>
      )}
      <Button size="small" color="inherit" onClick={() => input.current?.click()}>
        {table ? 'Another' : 'Choose a .cube file'}
      </Button>
      {table && (
        <>
          <Button
            size="small"
            color="inherit"
            onClick={() =>
              download(new Blob([writeCube(table)], { type: 'text/plain' }), `${table.name}.cube`)
            }
          >
            Save
          </Button>
          <Button size="small" color="inherit" onClick={() => onChange(null)}>
            Remove
          </Button>
        </>
      )}
      {trouble && (
        <Box role="alert" sx={{ color: colors.attention, fontSize: 12.5, textAlign: 'left' }}>
          {trouble}
        </Box>
      )}
    </Box>
  );
}
