'use client';

import { DndContext, type DragEndEvent, PointerSensor, useSensor, useSensors } from '@dnd-kit/core';
import {
  programOf,
  RECIPE_PURPOSES,
  type RecipeConditions,
  RecipeProblem,
  type RecipePurpose,
  type RecipeStep,
} from '@dusk-tally/core/bench';
import type { Chemistry } from '@dusk-tally/core/chemistry';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { Button } from '@/kit/button';
import { Problem } from '@/kit/page';
import { useAct } from '@/kit/use-act';
import { saveRecipeAct } from './bench-acts';
import { StepFields } from './recipe-fields';
import { RecipePicture } from './recipe-picture';
import { KIND_WORDS, KINDS, newStep, stepWords } from './recipe-steps';
import { Input, Label } from '@/kit/form-parts';
import { Choice, Option } from '@/kit/choice';
import { Tick } from '@/kit/tick';
import { StepRow } from './recipe-step-row';

export interface RecipeDraft {
  id: number | null;
  rowVersion: number | null;
  number: number;
  name: string;
  purpose: RecipePurpose;
  attendedOnly: boolean;
  steps: RecipeStep[];
}

/** A model recipes are tried with on the screen. */
export interface TriedWith {
  name: string;
  chemistry: Chemistry;
  conditions: RecipeConditions;
}

const PURPOSE_WORDS: Record<RecipePurpose, string> = {
  claimCheck: 'checks a claim',
  rateSet: 'several rates',
  quickScreen: 'ranks, never states a capacity',
  slowCharge: 'charge acceptance',
  conditioning: 'conditioning',
  reclaimed: 'reclaimed cells',
  string: 'a string under load',
  retention: 'capacity retention',
  own: 'our own',
};

/** Writes a recipe: steps by dragging or by keys, a picture of what is expected, what is wrong with it. */
export function RecipeEditor({
  draft,
  models,
}: {
  draft: RecipeDraft;
  models: readonly TriedWith[];
}) {
  const [recipe, setRecipe] = useState(draft);
  // Rows keep their fields when they move: each has a name of its own.
  const [keys, setKeys] = useState(() => draft.steps.map((_, i) => i));
  const [note, setNote] = useState('');
  const [tried, setTried] = useState(0);
  const { run, busy, problem } = useAct();
  const router = useRouter();
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 4 } }));
  const setSteps = (steps: RecipeStep[], nextKeys: number[]) => {
    setRecipe({ ...recipe, steps });
    setKeys(nextKeys);
  };
  const moved = <T,>(list: readonly T[], from: number, to: number): T[] => {
    const next = [...list];
    const [one] = next.splice(from, 1);
    next.splice(to, 0, one!);
    return next;
  };
  const move = (from: number, to: number) => {
    if (to < 0 || to >= recipe.steps.length || from === to) return;
    setSteps(moved(recipe.steps, from, to), moved(keys, from, to));
  };
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    const from = (active.data.current as { index: number } | undefined)?.index;
    const to = (over?.data.current as { index: number } | undefined)?.index;
    if (from !== undefined && to !== undefined) move(from, to);
  };
  const model = models[tried];
  let wrong: string | null = null;
  let program: ReturnType<typeof programOf> = [];
  try {
    if (model) program = programOf(recipe.steps, model.conditions);
  } catch (error) {
    if (!(error instanceof RecipeProblem)) throw error;
    wrong = error.step > 0 ? `Step ${error.step}: ${error.message}` : error.message;
  }
  return (
    <form
      className="grid items-start gap-4 xl:grid-cols-[1fr_420px]"
      onSubmit={(event) => {
        event.preventDefault();
        run(
          () =>
            saveRecipeAct({
              id: recipe.id,
              rowVersion: recipe.rowVersion,
              name: recipe.name,
              purpose: recipe.purpose,
              attendedOnly: recipe.attendedOnly,
              steps: recipe.steps,
              note,
            }),
          () => router.push('/bench/recipes'),
        );
      }}
    >
      <div className="space-y-3">
        <div className="flex flex-wrap gap-3">
          <Label text="Name">
            <Input
              className="w-72"
              value={recipe.name}
              onChange={(event) => setRecipe({ ...recipe, name: event.target.value })}
            />
          </Label>
          <Label text="What it is for">
            <Choice
              className="w-64"
              value={recipe.purpose}
              onValue={(next) => setRecipe({ ...recipe, purpose: next as RecipePurpose })}
            >
              {RECIPE_PURPOSES.map((purpose) => (
                <Option key={purpose} value={purpose}>
                  {PURPOSE_WORDS[purpose]}
                </Option>
              ))}
            </Choice>
          </Label>
          <Tick
            checked={recipe.attendedOnly}
            onChecked={(on) => setRecipe({ ...recipe, attendedOnly: on })}
            className="self-end pb-2"
          >
            Only while somebody is there, from start to finish
          </Tick>
        </div>
        <DndContext sensors={sensors} onDragEnd={onDragEnd} id="recipe-steps">
          <ol className="space-y-1" aria-label="Steps">
            {recipe.steps.map((step, i) => (
              <StepRow
                key={keys[i]}
                index={i}
                step={step}
                count={recipe.steps.length}
                move={(by) => move(i, i + by)}
                remove={() =>
                  setSteps(
                    recipe.steps.filter((_, k) => k !== i),
                    keys.filter((_, k) => k !== i),
                  )
                }
              >
                <StepFields
                  step={step}
                  change={(next) =>
                    setRecipe({
                      ...recipe,
                      steps: recipe.steps.map((one, k) => (k === i ? next : one)),
                    })
                  }
                />
              </StepRow>
            ))}
          </ol>
        </DndContext>
        <div className="flex flex-wrap gap-1.5" role="group" aria-label="Add a step">
          {KINDS.map((kind) => (
            <Button
              key={kind}
              onClick={() =>
                setSteps([...recipe.steps, newStep(kind)], [...keys, Math.max(-1, ...keys) + 1])
              }
            >
              + {KIND_WORDS[kind]}
            </Button>
          ))}
        </div>
      </div>
      <aside className="panel space-y-3 p-4">
        <Label text="Tried with">
          <Choice value={tried} onValue={(next) => setTried(Number(next))}>
            {models.map(({ name }, i) => (
              <Option key={name} value={i}>
                {name}
              </Option>
            ))}
          </Choice>
        </Label>
        {wrong ? (
          <Problem>{wrong}</Problem>
        ) : (
          model && (
            <RecipePicture
              program={program}
              chemistry={model.chemistry}
              capacityAh={model.conditions.ratedAh}
            />
          )
        )}
        <ol className="list-inside list-decimal text-[0.9rem]">
          {recipe.steps.map((step, i) => (
            <li key={i}>{stepWords(step)}</li>
          ))}
        </ol>
        {recipe.id !== null && (
          <Label text={<>What changed, for version {recipe.number + 1}</>}>
            <Input value={note} onChange={(event) => setNote(event.target.value)} />
          </Label>
        )}
        <Button
          type="submit"
          look="primary"
          disabled={
            busy || wrong !== null || recipe.name.trim() === '' || recipe.steps.length === 0
          }
        >
          {recipe.id === null ? 'Keep the recipe' : 'Keep as a new version'}
        </Button>
        {problem && <Problem>{problem}</Problem>}
      </aside>
    </form>
  );
}
