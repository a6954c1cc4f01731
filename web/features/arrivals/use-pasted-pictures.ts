import { type RefObject, useEffect } from 'react';

interface Place {
  element: RefObject<HTMLElement | null>;
  take: (files: File[]) => unknown;
}

/** Places a pasted picture could go to, the newest opened last. */
const places: Place[] = [];

function onPaste(event: ClipboardEvent) {
  const files = [...(event.clipboardData?.files ?? [])].filter((file) =>
    file.type.startsWith('image/'),
  );
  if (files.length === 0) return;
  const within = (place: Place) => place.element.current;
  const chosen =
    places.find((place) => within(place)?.contains(document.activeElement)) ??
    places.find((place) => within(place)?.matches(':hover')) ??
    places.at(-1);
  void chosen?.take(files);
}

/**
 * Takes pasted pictures. Where several places could, one does: the one with the focus, else the
 * one under the pointer, else the one opened last.
 */
export function usePastedPictures(
  element: RefObject<HTMLElement | null>,
  take: ((files: File[]) => unknown) | null,
): void {
  useEffect(() => {
    if (!take) return;
    const place = { element, take };
    if (places.length === 0) window.addEventListener('paste', onPaste);
    places.push(place);
    return () => {
      places.splice(places.indexOf(place), 1);
      if (places.length === 0) window.removeEventListener('paste', onPaste);
    };
  }, [element, take]);
}
