import { type CompiledTemplate, compileTemplate } from '@dusk-tally/core/arrivals';
import type { CodeTemplateRow, MakerCodeRow, Transaction } from '@dusk-tally/store';
import { z } from 'zod';
import { makerInput, templateInput } from '../inputs';
import { isDuplicate, type Lab, LabError, procedure, question } from '../shared';

/** The lab's own templates, ready to read codes. */
export async function codeReaders(
  lab: Lab,
  transaction?: Transaction,
): Promise<CompiledTemplate[]> {
  const rows = await lab.store.arrivals.codeTemplates.find(
    { active: true },
    { transaction, order: [['id', 'ASC']] },
  );
  return rows.map(compileTemplate);
}

function compiled(template: { name: string; pattern: string }): CompiledTemplate {
  try {
    return compileTemplate(template);
  } catch (error) {
    throw new LabError('invalid', (error as Error).message, { field: 'pattern' });
  }
}

/** Adds a template by which codes of a maker are read. */
export const addTemplate = procedure({
  role: 'lead',
  input: templateInput,
  run: async ({ lab, input, transaction, audit, changed }): Promise<CodeTemplateRow> => {
    compiled(input);
    try {
      const row = await lab.store.arrivals.codeTemplates.insert(
        { ...input, active: true },
        transaction,
      );
      changed({ what: 'codeRules' });
      await audit({
        act: 'added code template',
        subjectType: 'code template',
        subjectId: row.id,
        after: input,
      });
      return row;
    } catch (error) {
      if (isDuplicate(error))
        throw new LabError('duplicate', `A template named ${input.name} is here already.`, {
          field: 'name',
        });
      throw error;
    }
  },
});

/** Takes a template out of use, or back into it. */
export const useTemplate = procedure({
  role: 'lead',
  input: z.object({ id: z.int(), version: z.int(), active: z.boolean() }),
  run: async ({ lab, input, transaction, audit, changed }): Promise<void> => {
    const { id, version, active } = input;
    const updated = await lab.store.arrivals.codeTemplates.update(
      { active, version: version + 1 },
      { id, version },
      transaction,
    );
    if (updated === 0)
      throw new LabError('conflict', 'Someone else changed this template meanwhile. Reload.');
    changed({ what: 'codeRules' });
    await audit({
      act: active ? 'took up code template' : 'put away code template',
      subjectType: 'code template',
      subjectId: id,
      before: { active: !active },
      after: { active },
    });
  },
});

/** Tries a pattern on pasted samples, one a line; nothing is stored. */
export const tryTemplate = question({
  role: 'technician',
  input: z.object({ pattern: z.string().max(120), samples: z.string().max(20_000) }),
  run: (_lab, { pattern, samples }) => {
    const template = compiled({ name: 'on trial', pattern });
    const lines = samples.split(/\r?\n/).filter((line) => line.trim() !== '');
    return Promise.resolve(
      lines.slice(0, 200).map((line) => ({ text: line.trim(), reading: template.read(line) })),
    );
  },
});

/** Names the maker a code stands for; a known code gets the new name. */
export const nameMaker = procedure({
  role: 'lead',
  input: makerInput,
  run: async ({ lab, input, transaction, audit }): Promise<void> => {
    const table = lab.store.arrivals.makerCodes;
    const before = await table.one({ code: input.code }, { transaction, forUpdate: true });
    if (before)
      await table.update(
        { name: input.name, version: before.version + 1 },
        { id: before.id },
        transaction,
      );
    else await table.insert(input, transaction);
    await audit({
      act: 'named maker',
      subjectType: 'maker code',
      subjectId: input.code,
      before: before ? { name: before.name } : null,
      after: { name: input.name },
    });
  },
});

export interface CodeRules {
  templates: CodeTemplateRow[];
  makers: MakerCodeRow[];
}

export const codeRules = question({
  role: 'technician',
  input: z.object({}),
  run: async (lab): Promise<CodeRules> => {
    const [templates, makers] = await Promise.all([
      lab.store.arrivals.codeTemplates.find({}, { order: [['id', 'ASC']] }),
      lab.store.arrivals.makerCodes.find({}, { order: [['code', 'ASC']] }),
    ]);
    return { templates, makers };
  },
});
