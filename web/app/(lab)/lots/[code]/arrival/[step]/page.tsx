import { mayAct } from '@dusk-tally/lab';
import {
  arrivalCells,
  boxView,
  codesOfLot,
  lotArrival,
  lotFindings,
  lotSample,
  packsOfLot,
  photosOfLot,
  triageOfLot,
} from '@dusk-tally/lab/arrivals';
import { entryGrid, listInstruments, readingsSince } from '@dusk-tally/lab/evidence';
import { notFound } from 'next/navigation';
import type { ReactNode } from 'react';
import { BoxStep } from '@/features/arrivals/box-step';
import { CodesStep } from '@/features/arrivals/codes-step';
import { InspectionStep } from '@/features/arrivals/inspection-step';
import { LotFrame } from '@/features/arrivals/lot-frame';
import { PacksStep } from '@/features/arrivals/packs-step';
import { PhotoDrop } from '@/features/arrivals/photo-drop';
import { SamplingStep } from '@/features/arrivals/sampling-step';
import { StepFoot, StepRail } from '@/features/arrivals/step-rail';
import { isStep, STEP_NAMES, type StepName } from '@/features/arrivals/step-words';
import { torqueWords } from '@/features/arrivals/torque-words';
import { TriageStep } from '@/features/arrivals/triage-step';
import { EntryGrid } from '@/features/evidence/entry-grid';
import { lab } from '@/lib/lab';
import { lotContext } from '@/lib/lot-page';

interface Params {
  params: Promise<{ code: string; step: string }>;
}

export async function generateMetadata({ params }: Params) {
  const { step } = await params;
  return { title: isStep(step) ? STEP_NAMES[step] : 'Arrival' };
}

type Context = Awaited<ReturnType<typeof lotContext>>;

/** What a step shows; each fetches only what it needs. */
const STEPS: Record<StepName, (context: Context) => Promise<ReactNode>> = {
  box: async ({ who, head: { lot } }) => {
    const [box, photos] = await Promise.all([
      boxView(lab(), who, { lotId: lot.id }),
      photosOfLot(lab(), who, { lotId: lot.id }),
    ]);
    return (
      <div className="space-y-5">
        <BoxStep
          lotId={lot.id}
          box={box}
          ordered={lot.orderedQuantity}
          quantity={lot.quantity}
          takenAs={lot.takenAs}
        />
        <PhotoDrop
          lotId={lot.id}
          subject={{ type: 'lot', id: lot.id }}
          photos={photos}
          title="Photographs of the box"
        />
      </div>
    );
  },
  packs: async ({ who, head: { lot, model, claim } }) => {
    const [view, photos] = await Promise.all([
      packsOfLot(lab(), who, { lotId: lot.id }),
      photosOfLot(lab(), who, { lotId: lot.id }),
    ]);
    return (
      <PacksStep
        lotId={lot.id}
        format={model.format}
        lot={{ chemistry: model.chemistry, claimedAh: claim.capacityAh?.value ?? null }}
        view={view}
        photos={photos}
      />
    );
  },
  codes: async ({ who, head: { lot } }) => (
    <CodesStep lotId={lot.id} view={await codesOfLot(lab(), who, { lotId: lot.id })} />
  ),
  inspection: async ({ who, head: { lot, model } }) => {
    const lotId = lot.id;
    const [arrival, cells, box, findings, photos] = await Promise.all([
      lotArrival(lab(), who, { lotId }),
      arrivalCells(lab(), who, { lotId }),
      boxView(lab(), who, { lotId }),
      lotFindings(lab(), who, { lotId }),
      photosOfLot(lab(), who, { lotId }),
    ]);
    return (
      <InspectionStep
        lotCode={lot.code}
        lotId={lotId}
        format={model.format}
        torque={torqueWords(model)}
        initial={{ arrival, cells, box }}
        findings={findings}
        photos={photos}
        mayLead={mayAct(who.role, 'lead')}
      />
    );
  },
  readings: async ({ who, head: { lot, model, claim } }) => {
    const { last } = await readingsSince(lab(), who, { lotId: lot.id, after: null });
    const [cells, instruments] = await Promise.all([
      entryGrid(lab(), who, { lotId: lot.id }),
      listInstruments(lab(), who, {}),
    ]);
    const mass = claim.items.find((item) => item.kind === 'mass')?.value ?? null;
    return (
      <EntryGrid
        lotId={lot.id}
        cells={cells}
        lastReading={last}
        instruments={instruments.map(({ id, name, kind }) => ({ id, name, kind }))}
        kinds={
          model.format === 'prism'
            ? ['openCircuitVoltage', 'acResistance', 'mass', 'thickness']
            : ['openCircuitVoltage', 'acResistance', 'mass']
        }
        expected={{
          acResistance: claim.acResistanceMohm?.value ?? null,
          mass,
          thickness: model.thicknessMm,
        }}
      />
    );
  },
  triage: async ({ who, head: { lot } }) => (
    <TriageStep
      lotId={lot.id}
      view={await triageOfLot(lab(), who, { lotId: lot.id })}
      mayLead={mayAct(who.role, 'lead')}
    />
  ),
  sampling: async ({ who, head: { lot } }) => (
    <SamplingStep
      lotId={lot.id}
      code={lot.code}
      lotSize={lot.quantity}
      sample={await lotSample(lab(), who, { lotId: lot.id })}
      mayLead={mayAct(who.role, 'lead')}
    />
  ),
};

export default async function ArrivalStepPage({ params }: Params) {
  const { code, step } = await params;
  if (!isStep(step)) notFound();
  const context = await lotContext(code);
  const { lot } = context.head;
  const [{ steps }, content] = await Promise.all([
    lotArrival(lab(), context.who, { lotId: lot.id }),
    STEPS[step](context),
  ]);
  return (
    <LotFrame head={context.head} tab="arrival" strip={step !== 'inspection'}>
      <StepRail code={lot.code} steps={steps} current={step} />
      {content}
      <StepFoot lotId={lot.id} code={lot.code} steps={steps} current={step} />
    </LotFrame>
  );
}
