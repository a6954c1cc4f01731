'use client';

import type { ReactNode } from 'react';
import { type Accept, useDropzone } from 'react-dropzone';

/** A place files are dropped on, and a button that opens the computer’s own list of them. */
export function useFileDrop({
  label,
  testId,
  accept,
  many = true,
  onFiles,
}: {
  /** What the files are, for a screen reader. */
  label: string;
  testId?: string;
  /** Kinds taken, by MIME type; all where absent. */
  accept?: Accept;
  many?: boolean;
  onFiles: (files: File[]) => void;
}): {
  /** Spread on the element files are dropped on. */
  zone: ReturnType<ReturnType<typeof useDropzone>['getRootProps']>;
  /** Stands somewhere in it. */
  input: ReactNode;
  open: () => void;
  over: boolean;
} {
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    // What is of another kind goes on too: the server says what it expected.
    onDrop: (files, refused) => onFiles([...files, ...refused.map(({ file }) => file)]),
    multiple: many,
    accept,
    noClick: true,
    // Pasted pictures go to one place of several: `usePastedPictures` decides which.
    noPaste: true,
    noKeyboard: true,
  });
  return {
    zone: getRootProps({ tabIndex: undefined }),
    input: <input {...getInputProps({ 'aria-label': label, tabIndex: -1 })} data-testid={testId} />,
    open,
    over: isDragActive,
  };
}
