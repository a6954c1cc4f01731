'use client';

import { useDraggable, useDroppable } from '@dnd-kit/core';
import { type RecipeStep } from '@dusk-tally/core/bench';
import { ArrowDown, ArrowUp, GripVertical, Trash2 } from 'lucide-react';
import { Button } from '@/kit/button';
import { KIND_WORDS } from './recipe-steps';

/** One step of a recipe, to be dragged or moved by keys. */
export function StepRow({
  index,
  step,
  children,
  move,
  remove,
  count,
}: {
  index: number;
  step: RecipeStep;
  children: React.ReactNode;
  move: (by: 1 | -1) => void;
  remove: () => void;
  count: number;
}) {
  const drag = useDraggable({ id: `step-${index}`, data: { index } });
  const drop = useDroppable({ id: `place-${index}`, data: { index } });
  return (
    <li
      ref={drop.setNodeRef}
      className={`border-t-2 ${drop.isOver ? 'border-ember' : 'border-transparent'}`}
    >
      <div
        ref={drag.setNodeRef}
        className={`panel flex flex-wrap items-center gap-3 p-2.5 ${drag.isDragging ? 'opacity-60' : ''}`}
        style={{
          transform: drag.transform ? `translate3d(0, ${drag.transform.y}px, 0)` : undefined,
        }}
      >
        <button
          type="button"
          {...drag.listeners}
          aria-hidden
          tabIndex={-1}
          className="touch-none text-quiet"
        >
          <GripVertical size={18} />
        </button>
        <span className="w-28 font-semibold">
          {index + 1}. {KIND_WORDS[step.kind]}
        </span>
        {children}
        <span className="ml-auto flex">
          <Button
            look="bare"
            aria-label={`Step ${index + 1} up`}
            disabled={index === 0}
            onClick={() => move(-1)}
          >
            <ArrowUp size={16} aria-hidden />
          </Button>
          <Button
            look="bare"
            aria-label={`Step ${index + 1} down`}
            disabled={index === count - 1}
            onClick={() => move(1)}
          >
            <ArrowDown size={16} aria-hidden />
          </Button>
          <Button look="bare" aria-label={`Take step ${index + 1} out`} onClick={remove}>
            <Trash2 size={16} aria-hidden />
          </Button>
        </span>
      </div>
    </li>
  );
}
