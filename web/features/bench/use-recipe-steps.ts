'use client';

import type { RecipeStep } from '@dusk-tally/core/bench';
import { useState } from 'react';

/** A list with one of it moved. */
export function moved<T>(list: readonly T[], from: number, to: number): T[] {
  const next = [...list];
  const [one] = next.splice(from, 1);
  next.splice(to, 0, one!);
  return next;
}

/** What can be done to the steps of a recipe. Rows keep their fields when they move: each has a key. */
export function useRecipeSteps(
  steps: readonly RecipeStep[],
  setSteps: (steps: RecipeStep[]) => void,
) {
  const [keys, setKeys] = useState(() => steps.map((_, i) => i));
  const set = (next: RecipeStep[], nextKeys: number[]) => {
    setSteps(next);
    setKeys(nextKeys);
  };
  return {
    keys,
    move: (from: number, to: number) => {
      if (to < 0 || to >= steps.length || from === to) return;
      set(moved(steps, from, to), moved(keys, from, to));
    },
    remove: (at: number) =>
      set(
        steps.filter((_, i) => i !== at),
        keys.filter((_, i) => i !== at),
      ),
    change: (at: number, step: RecipeStep) =>
      setSteps(steps.map((one, i) => (i === at ? step : one))),
    add: (step: RecipeStep) => set([...steps, step], [...keys, Math.max(-1, ...keys) + 1]),
  };
}
