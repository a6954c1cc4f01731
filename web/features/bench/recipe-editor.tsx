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
import type { Chemistry, Clamping } from '@dusk-tally/core/chemistry';
import { useRouter } from 'next/navigation';
import { useMemo, useState } from 'react';
import { useWatch } from 'react-hook-form';
import { Button } from '@/kit/button';
import { Choice, Option } from '@/kit/choice';
import { ChoiceField, TextField, TickField } from '@/kit/form/fields';
import { Form } from '@/kit/form/form';
import { useLabForm } from '@/kit/form/use-lab-form';
import { Label } from '@/kit/form-parts';
import { Problem } from '@/kit/page';
import { saveRecipeAct } from './bench-acts';
import { StepFields } from './recipe-fields';
import { RecipePicture } from './recipe-picture';
import { StepRow } from './recipe-step-row';
import { KIND_WORDS, KINDS, newStep, stepWords } from './recipe-steps';
import { useRecipeSteps } from './use-recipe-steps';

export interface RecipeDraft {
  id: number | null;
  rowVersion: number | null;
  number: number;
  name: string;
  purpose: RecipePurpose;
  attendedOnly: boolean;
  clamping: Clamping | null;
  thenRest: string | null;
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

/** The program of some steps with a model, or what is wrong with them. */
function useProgram(steps: readonly RecipeStep[], model: TriedWith | undefined) {
  return useMemo(() => {
    try {
      return { program: model ? programOf(steps, model.conditions) : [], wrong: null };
    } catch (error) {
      if (!(error instanceof RecipeProblem)) throw error;
      return {
        program: [],
        wrong: error.step > 0 ? `Step ${error.step}: ${error.message}` : error.message,
      };
    }
  }, [steps, model]);
}

/** The steps, moved by dragging or by keys. */
function StepList({
  steps,
  setSteps,
}: {
  steps: readonly RecipeStep[];
  setSteps: (steps: RecipeStep[]) => void;
}) {
  const { keys, move, remove, change, add } = useRecipeSteps(steps, setSteps);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 4 } }));
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    const from = (active.data.current as { index: number } | undefined)?.index;
    const to = (over?.data.current as { index: number } | undefined)?.index;
    if (from !== undefined && to !== undefined) move(from, to);
  };
  return (
    <>
      <DndContext sensors={sensors} onDragEnd={onDragEnd} id="recipe-steps">
        <ol className="space-y-1" aria-label="Steps">
          {steps.map((step, i) => (
            <StepRow
              key={keys[i]}
              index={i}
              step={step}
              count={steps.length}
              move={(by) => move(i, i + by)}
              remove={() => remove(i)}
            >
              <StepFields step={step} change={(next) => change(i, next)} />
            </StepRow>
          ))}
        </ol>
      </DndContext>
      <div className="flex flex-wrap gap-1.5" role="group" aria-label="Add a step">
        {KINDS.map((kind) => (
          <Button key={kind} onClick={() => add(newStep(kind))}>
            + {KIND_WORDS[kind]}
          </Button>
        ))}
      </div>
    </>
  );
}

/** What the recipe does to a cell of a model, as a picture and in words. */
function Expected({
  steps,
  models,
  tried,
  onTried,
  expected: { program, wrong },
}: {
  steps: readonly RecipeStep[];
  models: readonly TriedWith[];
  tried: number;
  onTried: (tried: number) => void;
  expected: ReturnType<typeof useProgram>;
}) {
  const model = models[tried];
  return (
    <>
      <Label text="Tried with">
        <Choice value={tried} onValue={(next) => onTried(Number(next))}>
          {models.map(({ name }, i) => (
            <Option key={name} value={i}>
              {name}
            </Option>
          ))}
        </Choice>
      </Label>
      {wrong !== null && <Problem>{wrong}</Problem>}
      {wrong === null && model && (
        <RecipePicture
          program={program}
          chemistry={model.chemistry}
          capacityAh={model.conditions.ratedAh}
        />
      )}
      <ol className="list-inside list-decimal text-[0.9rem]">
        {steps.map((step, i) => (
          <li key={i}>{stepWords(step)}</li>
        ))}
      </ol>
    </>
  );
}

/** Writes a recipe: its steps, a picture of what is expected, what is wrong with it. */
export function RecipeEditor({
  draft,
  models,
  protocols,
}: {
  draft: RecipeDraft;
  models: readonly TriedWith[];
  /** Names of the rest protocols. */
  protocols: readonly string[];
}) {
  const router = useRouter();
  const [tried, setTried] = useState(0);
  const { id, rowVersion, number, name, purpose, attendedOnly, clamping, thenRest, steps } = draft;
  const form = useLabForm({
    schema: 'recipeChange',
    first: { id, rowVersion, name, purpose, attendedOnly, clamping, thenRest, steps, note: '' },
    act: saveRecipeAct,
    done: () => router.push('/bench/recipes'),
  });
  const { control, setValue } = form.form;
  const now = useWatch({ control, name: 'steps' }) as RecipeStep[];
  const expected = useProgram(now, models[tried]);
  return (
    <Form
      of={form}
      label="The recipe"
      act={id === null ? 'Keep the recipe' : 'Keep as a new version'}
      disabled={expected.wrong !== null || now.length === 0}
      className="space-y-3"
    >
      <div className="grid items-start gap-4 xl:grid-cols-[1fr_420px]">
        <div className="space-y-3">
          <div className="flex flex-wrap gap-3">
            <TextField name="name" label="Name" className="w-72" />
            <ChoiceField name="purpose" label="What it is for" className="w-64">
              {RECIPE_PURPOSES.map((one) => (
                <Option key={one} value={one}>
                  {PURPOSE_WORDS[one]}
                </Option>
              ))}
            </ChoiceField>
            <ChoiceField name="thenRest" label="When it is done, full" className="w-64">
              <Option value="">back to its place</Option>
              {protocols.map((one) => (
                <Option key={one} value={one}>
                  to rest, {one}
                </Option>
              ))}
            </ChoiceField>
            <ChoiceField name="clamping" label="Flat cells are held" className="w-64">
              <Option value="">as the data sheet says</Option>
              <Option value="fixture">in a fixture, at its force</Option>
              <Option value="free">free</Option>
            </ChoiceField>
            <TickField
              name="attendedOnly"
              label="Only while somebody is there, from start to finish"
              className="self-end pb-2"
            />
          </div>
          <StepList
            steps={now}
            setSteps={(next) => setValue('steps', next, { shouldDirty: true })}
          />
        </div>
        <aside className="panel space-y-3 p-4">
          <Expected
            steps={now}
            models={models}
            tried={tried}
            onTried={setTried}
            expected={expected}
          />
          {id !== null && (
            <TextField name="note" label={`What changed, for version ${number + 1}`} />
          )}
        </aside>
      </div>
    </Form>
  );
}
