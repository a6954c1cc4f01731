'use client';

import { Check, Circle, CircleDashed } from 'lucide-react';
import { useKeptDraft } from '@/lib/use-kept-draft';
import { Button, ButtonLink } from '@/kit/button';
import { type FirstStep, nextStep } from './first-steps-list';

const NONE = { skipped: [] as string[] };

/** What an empty lab begins with; each step can be left for later. */
export function FirstSteps({ steps }: { steps: readonly FirstStep[] }) {
  const [{ skipped }, set] = useKeptDraft('first steps', NONE);
  const next = nextStep(steps, skipped);
  return (
    <section className="panel max-w-3xl p-6" aria-labelledby="first-steps">
      <h2 id="first-steps" className="text-lg font-semibold">
        First steps
      </h2>
      <p className="text-quiet">Any of them can wait; all of them can be changed later.</p>
      <ol className="mt-3 space-y-3">
        {steps.map((step) => {
          const isSkipped = !step.isDone && skipped.includes(step.key);
          const Icon = step.isDone ? Check : isSkipped ? CircleDashed : Circle;
          return (
            <li key={step.key} className="flex flex-wrap items-start gap-3">
              <Icon size={18} className="mt-1 shrink-0 text-quiet" aria-hidden />
              <span className="min-w-0 flex-1 basis-64">
                <span className="font-medium">{step.title}</span>
                <span className="text-quiet">
                  {step.isDone ? ', done' : isSkipped ? ', left for later' : ''}
                </span>
                <span className="block text-[0.9rem] text-quiet">{step.says}</span>
              </span>
              {!step.isDone && (
                <span className="flex gap-1">
                  <ButtonLink look={step === next ? 'primary' : 'plain'} href={step.href}>
                    {step.act}
                  </ButtonLink>
                  {step === next && (
                    <Button
                      look="bare"
                      onClick={() => set({ skipped: [...skipped, step.key] })}
                      aria-label={`Leave for later: ${step.title}`}
                    >
                      Later
                    </Button>
                  )}
                </span>
              )}
            </li>
          );
        })}
      </ol>
    </section>
  );
}
