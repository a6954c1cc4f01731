import type { ReactNode } from 'react';

/** A short list of rows under heads; long ones are a DataTable. */
export function Table({
  label,
  className = 'w-full',
  children,
}: {
  /** Said to a screen reader where no heading stands above. */
  label?: string;
  className?: string;
  children: ReactNode;
}) {
  return (
    <div className="overflow-x-auto">
      <table className={`table-plain ${className}`} aria-label={label}>
        {children}
      </table>
    </div>
  );
}
