'use client';

import type { DisputeView } from '@dusk-tally/lab/disputes';
import { useFormState, useWatch } from 'react-hook-form';
import { say } from '@/kit/say';
import { Option } from '@/kit/choice';
import { ChoiceField, DayField, LinesField, NumberField, TickField } from '@/kit/form/fields';
import { Form } from '@/kit/form/form';
import { useLabForm } from '@/kit/form/use-lab-form';
import { changeDisputeAct, moveDisputeAct, openDisputeAct } from './acts';
import { type Proposal, proposalWords, REMEDY_WORDS, STAGE_WORDS } from './words';

/** Shown once an amount was asked about. */
function CertainField({ about }: { about: 'ask' | 'amount' }) {
  const { errors } = useFormState();
  const isTicked = useWatch({ name: 'certain' }) as boolean;
  if (!errors[about] && !isTicked) return null;
  return <TickField name="certain" label="The amount is right" className="min-h-9" />;
}

function AskFields({ currency }: { currency: string }) {
  return (
    <div className="grid items-end gap-3 sm:grid-cols-3">
      <ChoiceField name="remedy" label="We ask for">
        {Object.entries(REMEDY_WORDS).map(([remedy, words]) => (
          <Option key={remedy} value={remedy}>
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
  const why = proposalWords(proposal);
  const form = useLabForm({
    schema: 'disputeInput',
    first: {
      lotId,
      remedy: 'partialRefund',
      ask: proposed === null ? null : proposed / 100,
      certain: false,
      language: 'en',
    },
    act: openDisputeAct,
  });
  return (
    <Form of={form} label="Open a dispute" act="Open a dispute">
      <AskFields currency={currency} />
      {why && <p className="text-[0.87rem] text-quiet">{why}</p>}
    </Form>
  );
}

/** Changes what is asked, before anything went out. */
export function ChangeAskForm({
  view: { dispute },
  currency,
}: {
  view: DisputeView;
  currency: string;
}) {
  const { id, version, remedy, askCents, language } = dispute;
  const form = useLabForm({
    schema: 'disputeChange',
    first: { id, version, remedy, ask: askCents / 100, certain: false, language },
    act: changeDisputeAct,
    done: () => say('Kept.'),
  });
  return (
    <Form of={form} label="What is asked" act="Keep" look="plain">
      <AskFields currency={currency} />
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
