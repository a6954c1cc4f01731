'use client';

import { Choice, Option } from '@/kit/choice';
import { DateField } from '@/kit/date-field';
import { Input, Label, Suggesting } from '@/kit/form-parts';
import { NumberInput } from '@/kit/quantity-field';
import { COSTS, type LotDraft, type LotProblems } from './lot-draft';

type Order = LotDraft['order'];

/** What was ordered and what came: name, supplier, counts, days. */
export function LotOrderFields({
  order,
  set,
  suppliers,
  today,
  problems,
}: {
  order: Order;
  set: (patch: Partial<Order>) => void;
  suppliers: readonly string[];
  today: string;
  problems: LotProblems;
}) {
  const isPacks = order.takenAs === 'packs';
  return (
    <div className="grid gap-3 sm:grid-cols-3">
      <Label text="Short name" problem={problems.title ?? null}>
        <Input
          autoFocus
          value={order.title}
          onChange={(event) => set({ title: event.target.value })}
        />
      </Label>
      <Label text="Supplier" problem={problems.supplierName ?? null}>
        <Suggesting
          value={order.supplierName}
          onValue={(supplierName) => set({ supplierName })}
          known={suppliers}
        />
      </Label>
      <Label text="It comes as">
        <Choice
          value={order.takenAs}
          onValue={(next) => set({ takenAs: next as 'cells' | 'packs' })}
        >
          <Option value="cells">single cells</Option>
          <Option value="packs">packs to break down</Option>
        </Choice>
      </Label>
      <Label text={isPacks ? 'Packs ordered' : 'Ordered'} problem={problems.ordered ?? null}>
        <NumberInput
          quantity="count"
          text={order.ordered}
          onText={(next) => set({ ordered: next })}
        />
      </Label>
      {!isPacks && (
        <Label text="Cells counted" problem={problems.quantity ?? null}>
          <NumberInput
            quantity="count"
            text={order.quantity}
            onText={(next) => set({ quantity: next })}
            placeholder="count on arrival"
          />
        </Label>
      )}
      <Label text="Ordered on" problem={problems.orderedOn ?? null}>
        <DateField value={order.orderedOn} onValue={(next) => set({ orderedOn: next })} />
      </Label>
      <Label text="Arrived on" problem={problems.arrivedOn ?? null}>
        <DateField value={order.arrivedOn ?? today} onValue={(next) => set({ arrivedOn: next })} />
      </Label>
    </div>
  );
}

/** What was paid. */
export function LotCostFields({
  order,
  set,
  currency,
  problems,
}: {
  order: Order;
  set: (patch: Partial<Order>) => void;
  currency: string;
  problems: LotProblems;
}) {
  return (
    <div className="mt-3 grid gap-3 sm:grid-cols-5">
      {COSTS.map(([name, words]) => (
        <Label key={name} text={`${words} / ${currency}`} problem={problems[name] ?? null}>
          {name === 'discount' ? (
            <Input
              placeholder="or 4 %"
              value={order[name]}
              onChange={(event) => set({ [name]: event.target.value })}
            />
          ) : (
            <NumberInput
              quantity="money"
              text={order[name]}
              onText={(next) => set({ [name]: next })}
            />
          )}
        </Label>
      ))}
    </div>
  );
}
