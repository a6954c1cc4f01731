'use client';

import {
  CLAIM_ITEMS,
  CLAIM_KINDS,
  type ClaimKind,
  type ConditionName,
  type ConditionSpec,
} from '@dusk-tally/core/arrivals';
import { Plus, Trash2 } from 'lucide-react';
import { Button } from '@/kit/button';
import { ALWAYS, type ClaimDraft, type ItemDraft } from './claim-draft';
import { Input, Label } from '@/kit/form-parts';
import { Choice, Option } from '@/kit/choice';
import { DateField } from '@/kit/date-field';

/** What stands in where the claim is silent: `value` or a condition, with where it comes from. */
export type InheritedHints = Partial<
  Record<ClaimKind, Partial<Record<ConditionName | 'value', string>>>
>;

function Condition({
  kind,
  spec,
  value,
  hint,
  onChange,
}: {
  kind: ClaimKind;
  spec: ConditionSpec;
  value: string;
  hint: string | undefined;
  onChange: (value: string) => void;
}) {
  const words = `${spec.words}${spec.unit ? ` / ${spec.unit}` : ''}`;
  const name = kind === 'capacity' ? words : `${CLAIM_ITEMS[kind].words}, ${words}`;
  return (
    <Label text={<span aria-hidden>{words}</span>}>
      {spec.choices ? (
        <Choice label={name} value={value} onValue={(next) => onChange(next)}>
          <Option value="">{hint ?? 'not said'}</Option>
          {Object.entries(spec.choices).map(([choice, shown]) => (
            <Option key={choice} value={choice}>
              {shown}
            </Option>
          ))}
        </Choice>
      ) : (
        <Input
          aria-label={name}
          inputMode={spec.choices === null ? 'text' : 'decimal'}
          value={value}
          placeholder={hint ?? (spec.choices === null ? 'such as 0.2 / 1' : undefined)}
          onChange={(event) => onChange(event.target.value)}
        />
      )}
    </Label>
  );
}

function Item({
  kind,
  item,
  hints,
  problem,
  isRound,
  onChange,
  onRemove,
}: {
  kind: ClaimKind;
  item: ItemDraft;
  isRound: boolean;
  hints: Partial<Record<ConditionName | 'value', string>> | undefined;
  problem: string | null;
  onChange: (item: ItemDraft) => void;
  onRemove: (() => void) | null;
}) {
  const { words, unit, input, conditions } = CLAIM_ITEMS[kind];
  const shown = conditions.filter(({ name }) =>
    name === 'low'
      ? item.conditions.statedAs === 'range'
      : // A round cell is in no fixture; what is stored stays to be seen.
        name !== 'clamping' || !isRound || Boolean(item.conditions.clamping),
  );
  return (
    <div className="border-b border-rule pb-4 last:border-0" data-item={kind}>
      <div className="grid items-end gap-3 sm:grid-cols-4">
        <Label
          className={input === 'text' ? 'sm:col-span-2' : ''}
          problem={problem}
          text={
            <span className="font-medium text-ink">
              Claimed {/^[AD]C /.test(words) ? words : words.toLowerCase()}
              {unit && <span className="font-normal text-quiet"> / {unit}</span>}
            </span>
          }
        >
          {input === 'date' ? (
            <DateField value={item.value} onValue={(value) => onChange({ ...item, value })} />
          ) : (
            <Input
              inputMode={input === 'number' ? 'decimal' : undefined}
              value={item.value}
              placeholder={hints?.value}
              onChange={(event) => onChange({ ...item, value: event.target.value })}
            />
          )}
        </Label>
        {shown.map((spec) => (
          <Condition
            key={spec.name}
            kind={kind}
            spec={spec}
            value={item.conditions[spec.name] ?? ''}
            hint={hints?.[spec.name]}
            onChange={(value) =>
              onChange({ ...item, conditions: { ...item.conditions, [spec.name]: value } })
            }
          />
        ))}
        {onRemove && (
          <Button
            look="bare"
            className="justify-self-start"
            aria-label={`Remove ${words}`}
            onClick={onRemove}
          >
            <Trash2 size={16} aria-hidden />
          </Button>
        )}
      </div>
    </div>
  );
}

/** What the supplier claims, item by item with its conditions. */
export function ClaimFields({
  draft,
  onChange,
  inherited,
  isRound,
  problemOf = () => null,
}: {
  draft: ClaimDraft;
  onChange: (draft: ClaimDraft) => void;
  inherited: InheritedHints;
  /** Cells that are clamped by nobody. */
  isRound: boolean;
  /** What is wrong with an item. */
  problemOf?: (kind: ClaimKind) => string | null;
}) {
  const unused = CLAIM_KINDS.filter((kind) => !draft[kind]);
  return (
    <div className="space-y-4">
      {CLAIM_KINDS.map((kind) => {
        const item = draft[kind];
        if (!item) return null;
        return (
          <Item
            key={kind}
            kind={kind}
            item={item}
            hints={inherited[kind]}
            problem={problemOf(kind)}
            isRound={isRound}
            onChange={(changed) => onChange({ ...draft, [kind]: changed })}
            onRemove={
              ALWAYS.includes(kind)
                ? null
                : () => {
                    const { [kind]: _removed, ...rest } = draft;
                    onChange(rest);
                  }
            }
          />
        );
      })}
      {unused.length > 0 && (
        <label className="flex flex-wrap items-center gap-2">
          <Plus size={16} aria-hidden />
          <span>Further item</span>
          <Choice
            className="w-auto"
            value=""
            onValue={(next) =>
              onChange({
                ...draft,
                [next]: { value: '', conditions: {} },
              })
            }
          >
            <Option value="">choose …</Option>
            {unused.map((kind) => (
              <Option key={kind} value={kind}>
                {CLAIM_ITEMS[kind].words}
              </Option>
            ))}
          </Choice>
        </label>
      )}
    </div>
  );
}
