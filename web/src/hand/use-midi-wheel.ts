import { type WheelSends, likelySends, readWheel, stepsOf } from '@skipback/core/edit/wheel';
import { useEffect, useRef, useState } from 'react';
import { REST_MS } from './use-arrow-wheel';
import type { HandRecording } from './use-recording';

export interface MidiWheel {
  /** What is known of MIDI here, for people. */
  readonly words: string;
  readonly state: 'none' | 'off' | 'asking' | 'on' | 'failed';
  readonly sends: WheelSends;
  setSends(sends: WheelSends): void;
  framesAStep: number;
  setFramesAStep(frames: number): void;
  connect(): void;
}

/**
 * A control of a MIDI device turns the wheel, where the browser has MIDI: the first control that moves is taken. A
 * key of the device, where it tells touches, begins and ends the gesture; else it ends when nothing turned for a while.
 */
export function useMidiWheel(hand: HandRecording): MidiWheel {
  const [state, setState] = useState<MidiWheel['state']>('requestMIDIAccess' in navigator ? 'off' : 'none');
  const [devices, setDevices] = useState<readonly string[]>([]);
  const [control, setControl] = useState<string>();
  const [sends, setSends] = useState<WheelSends>('around-0');
  const [framesAStep, setFramesAStep] = useState(1);
  const now = useRef({ hand, sends, framesAStep });
  useEffect(() => void (now.current = { hand, sends, framesAStep }));
  const held = useRef<{ access: MIDIAccess; close: () => void }>(undefined);
  useEffect(() => () => held.current?.close(), []);

  const listen = (access: MIDIAccess) => {
    let taken: string | undefined;
    let before: number | undefined;
    let touched = false;
    let rest: ReturnType<typeof setTimeout> | undefined;
    const hear = (event: MIDIMessageEvent) => {
      const heard = event.data && readWheel(event.data);
      if (!heard) return;
      const { hand: h } = now.current;
      if (heard.kind === 'touch') {
        touched = heard.down;
        if (touched && !h.live) h.begin();
        if (!touched) h.finish();
        return;
      }
      if (taken === undefined) {
        taken = heard.control;
        setControl(taken);
        const likely = likelySends(heard);
        now.current.sends = likely;
        setSends(likely);
      }
      if (heard.control !== taken) return;
      const steps = stepsOf(heard, now.current.sends, before);
      before = heard.value;
      if (steps === 0) return;
      if (!h.live) h.begin();
      h.turn(steps * now.current.framesAStep, event.timeStamp);
      clearTimeout(rest);
      if (!touched) rest = setTimeout(() => now.current.hand.finish(true), REST_MS);
    };
    const bind = () => {
      const inputs = [...access.inputs.values()];
      for (const input of inputs) input.onmidimessage = hear;
      setDevices(inputs.map((i) => i.name ?? 'a device without a name'));
    };
    bind();
    access.onstatechange = bind;
    const close = () => {
      clearTimeout(rest);
      access.onstatechange = null;
      for (const input of access.inputs.values()) input.onmidimessage = null;
    };
    held.current = { access, close };
  };
  const connect = () => {
    setState('asking');
    navigator
      .requestMIDIAccess()
      .then((access) => {
        listen(access);
        setState('on');
      })
      .catch(() => setState('failed'));
  };
  const words = {
    none: 'This browser has no MIDI.',
    off: 'A MIDI control can turn the wheel.',
    asking: 'The browser is asking for leave to use MIDI.',
    failed: 'The browser did not allow MIDI: allow it for this page, then try again.',
    on:
      devices.length === 0
        ? 'No MIDI device is connected yet: plug one in.'
        : control === undefined
          ? `${devices.join(', ')}: turn a control, and it is the wheel.`
          : `Control ${control} is the wheel.`,
  }[state];
  return { words, state, sends, setSends, framesAStep, setFramesAStep, connect };
}
