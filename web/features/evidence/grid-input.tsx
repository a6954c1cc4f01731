'use client';

import { type ClipboardEvent, type KeyboardEvent, useState } from 'react';
import { Button } from '@/kit/button';
import type { Clash, Entry } from './entry-columns';
import { Input } from '@/kit/form-parts';

/** A short tone when a figure is odd. */
export function beep(): void {
  try {
    const audio = new AudioContext();
    const tone = audio.createOscillator();
    tone.frequency.value = 440;
    tone.connect(audio.destination);
    tone.start();
    tone.stop(audio.currentTime + 0.12);
    tone.onended = () => void audio.close();
  } catch {
    // A browser without sound still shows the question.
  }
}

const clashWords = ({ value, decimals }: Clash): string =>
  value === null ? 'nothing' : value.toFixed(decimals);

interface GridInputProps {
  at: string;
  name: string;
  entry: Entry;
  onFocus: () => void;
  onKeyDown: (event: KeyboardEvent<HTMLInputElement>) => void;
  onPaste: (event: ClipboardEvent) => void;
  onBlur: (text: string) => void;
  onKeep: () => void;
  onSettle: (take: 'mine' | 'theirs') => void;
}

/** One field of the grid, with its question in place. */
export function GridInput({
  at,
  name,
  entry,
  onFocus,
  onKeyDown,
  onPaste,
  onBlur,
  onKeep,
  onSettle,
}: GridInputProps) {
  const [text, setText] = useState(entry.text);
  const [shown, setShown] = useState(entry);
  if (shown !== entry) {
    setShown(entry);
    // Half a number of one’s own is not typed over by what somebody else stored.
    if (text === shown.text || entry.by === null) setText(entry.text);
  }
  const question = entry.problem ?? (entry.doubt && !entry.kept ? entry.doubt.question : null);
  return (
    <span className="px-1.5 py-1">
      <Input
        data-at={at}
        aria-label={name}
        aria-invalid={question !== null}
        aria-describedby={question ? `q-${at}` : undefined}
        autoComplete="off"
        inputMode="decimal"
        className={`px-2 text-right tabular-nums ${question ? 'border-doubt' : 'border-rule'}`}
        value={text}
        onChange={(event) => setText(event.target.value)}
        onFocus={onFocus}
        onKeyDown={onKeyDown}
        onPaste={onPaste}
        onBlur={() => onBlur(text)}
      />
      {entry.by && !entry.clash && (
        <span className="block text-right text-[0.72rem] text-quiet">{entry.by}</span>
      )}
      {entry.clash && (
        <span
          role="alert"
          className="mt-1 flex flex-wrap items-center justify-end gap-2 text-[0.82rem] text-doubt"
        >
          {entry.clash.person} typed {clashWords(entry.clash)} here meanwhile.
          <Button
            className="min-h-7 px-2 py-0.5 pointer-coarse:min-h-11"
            onMouseDown={(event) => event.preventDefault()}
            onClick={() => onSettle('theirs')}
          >
            Take {clashWords(entry.clash)}
          </Button>
          <Button
            className="min-h-7 px-2 py-0.5 pointer-coarse:min-h-11"
            onMouseDown={(event) => event.preventDefault()}
            onClick={() => onSettle('mine')}
          >
            Keep {entry.text === '' ? 'nothing' : entry.text}
          </Button>
        </span>
      )}
      {entry.repeats && (
        <span className="block text-right text-[0.72rem] text-quiet">
          median of {entry.repeats.join(', ')}
        </span>
      )}
      {question && (
        <span
          id={`q-${at}`}
          role="alert"
          className="mt-1 flex flex-wrap items-center justify-end gap-2 text-[0.82rem] text-doubt"
        >
          {question}
          {!entry.problem && (
            <Button
              className="min-h-7 px-2 py-0.5 pointer-coarse:min-h-11"
              onMouseDown={(event) => event.preventDefault()}
              onClick={onKeep}
            >
              Keep it
            </Button>
          )}
        </span>
      )}
    </span>
  );
}
