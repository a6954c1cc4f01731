import { encodeColumn } from '../blocks/column-codec';
import { BLOCK_ROWS } from '../blocks/block-format';
import { type StoredColumn, storedColumns, type TraceBlock } from '../blocks/trace-blocks';
import type { Trace } from '../trace';

/** One column on its way into blocks. */
interface Pending {
  values: Float64Array;
  decimals: number;
  index: number;
}

/** Compresses a trace that comes in stretches; holds one unfinished block a column. */
export class TraceWriter {
  readonly blocks: TraceBlock[] = [];
  private readonly pending = new Map<StoredColumn, Pending>();
  private filled = 0;
  rows = 0;

  /** Adds the next rows; every stretch has the same columns. */
  add(part: Trace): void {
    const columns = storedColumns(part);
    for (const [name, , decimals] of columns) {
      const column = this.pending.get(name);
      if (!column)
        this.pending.set(name, { values: new Float64Array(BLOCK_ROWS), decimals, index: 0 });
      else column.decimals = Math.max(column.decimals, decimals);
    }
    const n = part.timeS.length;
    for (let from = 0; from < n;) {
      const take = Math.min(n - from, BLOCK_ROWS - this.filled);
      for (const [name, values] of columns)
        this.pending.get(name)!.values.set(values.subarray(from, from + take), this.filled);
      from += take;
      this.filled += take;
      if (this.filled === BLOCK_ROWS) this.flush();
    }
    this.rows += n;
  }

  private flush(): void {
    for (const [column, { values, decimals, index }] of this.pending) {
      const payload = encodeColumn(values.subarray(0, this.filled), decimals);
      this.blocks.push({ column, index, payload });
      this.pending.get(column)!.index++;
    }
    this.filled = 0;
  }

  /** All blocks, the last unfinished ones too. */
  finish(): TraceBlock[] {
    if (this.filled > 0) this.flush();
    return this.blocks;
  }
}
