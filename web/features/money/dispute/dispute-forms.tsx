'use client';

import { type Cents, centsText, groundsCents, roundedCents } from '@dusk-tally/core/money';
import type { DisputeView } from '@dusk-tally/lab/disputes';
import type { LotBooks } from '@dusk-tally/lab/money';
import { useFormState, useWatch } from 'react-hook-form';
import { say } from '@/kit/say';
import { Option } from '@/kit/choice';
import {
  ChoiceField,
  DayField,
  LinesField,
  NumberField,
  TextField,
  TickField,
} from '@/kit/form/fields';
import { Form } from '@/kit/form/form';
import { useLabForm } from '@/kit/form/use-lab-form';
import { changeDisputeAct, moveDisputeAct, openDisputeAct } from './acts';
import { GroundsTable } from './grounds-table';
import { type Proposal, REMEDY_WORDS, STAGE_WORDS } from './words';

type DisputeRemedy = keyof LotBooks['grounds'];

/** Shown once an amount was asked about. */
function CertainField({ about }: { about: 'ask' | 'amount' }) {
  const { errors } = useFormState();
  const isTicked = useWatch({ name: 'certain' }) as boolean;
  if (!errors[about] && !isTicked) return null;
  return <TickField name="certain" label="The amount is right" className="min-h-9" />;
}

/** What is asked beyond the grounds is said in words that the supplier reads. */
function GroundField({ rest, currency }: { rest: Cents; currency: string }) {
  const { errors } = useFormState();
  const told = useWatch({ name: 'ground' }) as string | null;
  if (rest <= 0 && !told && !errors.ground) return null;
  return (
    <TextField
      name="ground"
      label={rest > 0 ? `What the other ${centsText(rest)} ${currency} is for` : 'Beyond that, for'}
    />
  );
}

function AskFields({
  currency,
  proposal: { grounds, mayNotShip },
}: {
  currency: string;
  proposal: Proposal;
}) {
  const remedy = useWatch({ name: 'remedy' }) as DisputeRemedy;
  const ask = useWatch({ name: 'ask' }) as number | null;
  const askCents = typeof ask === 'number' && ask >= 0 ? roundedCents(100 * ask) : null;
  return (
    <>
      <div className="grid items-end gap-3 sm:grid-cols-3">
        <ChoiceField name="remedy" label="We ask for">
          {Object.entries(REMEDY_WORDS).map(([value, words]) => (
            <Option key={value} value={value}>
              {words}
            </Option>
          ))}
        </ChoiceField>
        <div>
          <NumberField name="ask" quantity="money" label={`Amount / ${currency}`} />
          <CertainField about="ask" />
        </div>
        <ChoiceField name="language" label="Letters and files in">
          <Option value="en">English</Option>
          <Option value="de">Deutsch</Option>
        </ChoiceField>
      </div>
      <GroundField
        rest={askCents === null ? 0 : askCents - groundsCents(grounds[remedy])}
        currency={currency}
      />
      {mayNotShip !== null && remedy !== 'partialRefund' && (
        <p className="font-medium text-doubt">{mayNotShip}</p>
      )}
      <GroundsTable grounds={grounds[remedy]} askCents={askCents} currency={currency} />
    </>
  );
}

/** Opens a dispute with what the books propose. */
export function OpenDisputeForm({
  lotId,
  proposal,
  currency,
}: {
  lotId: number;
  proposal: Proposal;
  currency: string;
}) {
  const proposed = proposal.askCents;
  const form = useLabForm({
    schema: 'disputeInput',
    first: {
      lotId,
      remedy: 'partialRefund',
      ask: proposed === null ? null : proposed / 100,
      ground: null as string | null,
      certain: false,
      language: 'en',
    },
    act: openDisputeAct,
  });
  return (
    <Form of={form} label="Open a dispute" act="Open a dispute">
      <AskFields currency={currency} proposal={proposal} />
    </Form>
  );
}

/** Changes what is asked, before anything went out. */
export function ChangeAskForm({
  view: { dispute },
  currency,
  proposal,
}: {
  view: DisputeView;
  currency: string;
  proposal: Proposal;
}) {
  const { id, version, remedy, askCents, ground, language } = dispute;
  const form = useLabForm({
    schema: 'disputeChange',
    first: { id, version, remedy, ask: askCents / 100, ground, certain: false, language },
    act: changeDisputeAct,
    done: () => say('Kept.'),
  });
  return (
    <Form of={form} label="What is asked" act="Keep" look="plain">
      <AskFields currency={currency} proposal={proposal} />
    </Form>
  );
}

function AmountField({ currency }: { currency: string }) {
  const stage = useWatch({ name: 'stage' }) as string;
  if (stage !== 'agreed' && stage !== 'paid') return null;
  return (
    <div>
      <NumberField name="amount" quantity="money" label={`How much / ${currency}`} />
      <CertainField about="amount" />
    </div>
  );
}

/** Notes what happened next. */
export function MoveForm({
  view: { dispute, next },
  today,
  currency,
}: {
  view: DisputeView;
  today: string;
  currency: string;
}) {
  const { id, version } = dispute;
  const form = useLabForm({
    schema: 'disputeMove',
    first: {
      id,
      version,
      stage: (next[0] ?? 'answered') as 'sent',
      day: today,
      text: '',
      amount: null,
      certain: false,
    },
    act: moveDisputeAct,
  });
  return (
    <Form of={form} label="What happened next" act="Note it">
      <div className="grid items-end gap-3 sm:grid-cols-3">
        <ChoiceField name="stage" label="Now it is">
          {next.map((stage) => (
            <Option key={stage} value={stage}>
              {STAGE_WORDS[stage]}
            </Option>
          ))}
        </ChoiceField>
        <DayField name="day" label="On" />
        <AmountField currency={currency} />
      </div>
      <LinesField name="text" label="What happened" rows={2} />
    </Form>
  );
}
