'use client';

import { useState } from 'react';
import {
  CHOICE,
  ChoiceFace,
  type ChoiceProps,
  inside,
  Option,
  optionsIn,
  valueOf,
} from './choice-parts';
import { useFieldWiring } from './form-parts';
import { atMouseDown, onDemand } from './on-demand';

export { Option };

const useList = onDemand(() => import('./choice-list'));

/** What it looks like until its list is asked for: a press, an arrow or a letter does. */
function Closed({
  value,
  children,
  className = '',
  label,
  disabled = false,
  isAsked,
  onAsk,
}: ChoiceProps & { isAsked: boolean; onAsk: () => void }) {
  const wiring = useFieldWiring();
  const chosen = optionsIn(children).find(({ props }) => valueOf(props) === inside(value));
  return (
    <button
      {...wiring}
      type="button"
      role="combobox"
      aria-expanded={isAsked}
      aria-label={label}
      disabled={disabled}
      onClick={onAsk}
      onPointerDown={atMouseDown(onAsk)}
      onKeyDown={(event) => {
        const asks = /^(Arrow(Up|Down)|\S)$/.test(event.key);
        if (!asks || event.ctrlKey || event.metaKey || event.altKey) return;
        event.preventDefault();
        onAsk();
      }}
      className={`${CHOICE} ${className}`}
    >
      <ChoiceFace>{chosen?.props.children}</ChoiceFace>
    </button>
  );
}

/** One of several, from a list that opens: arrows, first letters, Enter, Esc. */
export function Choice({
  name,
  ...props
}: ChoiceProps & {
  /** Handed over with a form by this name. */
  name?: string;
}) {
  const [isAsked, setIsAsked] = useState(false);
  const list = useList(isAsked, () => setIsAsked(false));
  return (
    <>
      {name !== undefined && <input type="hidden" name={name} value={props.value} />}
      {list ? (
        <list.ChoiceList {...props} />
      ) : (
        <Closed {...props} isAsked={isAsked} onAsk={() => setIsAsked(true)} />
      )}
    </>
  );
}
