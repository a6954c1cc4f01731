'use client';

import { ImageUp, ScanLine, X } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { Button } from '@/kit/button';
import { Problem } from '@/kit/page';
import { useFileDrop } from '@/kit/file-drop';

/** The decoder is fetched from our own server only when it is wanted. */
const loadReader = async () =>
  new (await import('@zxing/browser')).BrowserMultiFormatReader(undefined, {
    delayBetweenScanAttempts: 200,
  });

/** Reads codes with the tablet’s camera, or from a picture of one. */
export function CodeCamera({ onCode }: { onCode: (code: string) => void }) {
  const video = useRef<HTMLVideoElement>(null);
  const [on, setOn] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const latest = useRef(onCode);
  useEffect(() => {
    latest.current = onCode;
  });

  useEffect(() => {
    if (!on) return;
    let stop: (() => void) | null = null;
    let ended = false;
    let before = '';
    void (async () => {
      try {
        if (!navigator.mediaDevices?.getUserMedia)
          throw new Error('this browser gives no camera here');
        const reader = await loadReader();
        const controls = await reader.decodeFromConstraints(
          { video: { facingMode: 'environment' } },
          video.current!,
          (result) => {
            const code = result?.getText() ?? '';
            // The camera sees a code many times a second; it counts once until another comes.
            if (code === '' || code === before) return;
            before = code;
            latest.current(code);
          },
        );
        stop = () => controls.stop();
        if (ended) controls.stop();
      } catch (error) {
        setProblem(
          `The camera cannot be used: ${(error as Error).message}. Type the code, use a scanner, or choose a picture of it.`,
        );
        setOn(false);
      }
    })();
    return () => {
      ended = true;
      stop?.();
    };
  }, [on]);

  const readPicture = async (picture: File) => {
    const url = URL.createObjectURL(picture);
    try {
      const image = new Image();
      image.src = url;
      await image.decode();
      const result = await (await loadReader()).decodeFromImageElement(image);
      setProblem(null);
      onCode(result.getText());
    } catch {
      setProblem(`No code was found in ${picture.name}. Nearer, straight on and sharp helps.`);
    } finally {
      URL.revokeObjectURL(url);
    }
  };

  const { zone, input, open } = useFileDrop({
    label: 'Picture of a code',
    testId: 'code-picture',
    accept: { 'image/*': [] },
    many: false,
    onFiles: ([picture]) => {
      if (picture) void readPicture(picture);
    },
  });

  return (
    <div {...zone}>
      <div className="flex flex-wrap gap-2">
        <Button className="min-h-11" onClick={() => setOn(!on)}>
          {on ? <X size={16} aria-hidden /> : <ScanLine size={16} aria-hidden />}
          {on ? 'Camera off' : 'Read with the camera'}
        </Button>
        {input}
        <Button look="bare" className="min-h-11" onClick={open}>
          <ImageUp size={16} aria-hidden /> From a picture
        </Button>
      </div>
      {on && (
        <video
          ref={video}
          className="mt-2 max-h-64 rounded-sm border border-rule"
          muted
          playsInline
        />
      )}
      {problem && <Problem>{problem}</Problem>}
    </div>
  );
}
