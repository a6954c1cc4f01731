import { z } from 'zod';
import { type Lab, question } from '../../shared';
import { HOUSE, newestSchemes, type ScopedScheme, schemeOf } from './schemes';

/** A version of a scheme in its history. */
export interface SchemeVersion {
  scope: string;
  name: string;
  version: number;
  ended: boolean;
  reason: string;
  who: string;
  at: Date;
}

/** Schemes in force, what else one could be for, and how they came about. */
export interface SchemesPage {
  /** The house’s first. */
  schemes: ScopedScheme[];
  models: { id: number; name: string; chemistry: string }[];
  history: SchemeVersion[];
}

async function historyOf(lab: Lab): Promise<SchemeVersion[]> {
  const [rows, people] = await Promise.all([
    lab.store.grading.schemes.find({}, { order: [['id', 'DESC']] }),
    lab.store.people.find({}, { columns: ['id', 'name'] }),
  ]);
  const nameOf = new Map(people.map(({ id, name }) => [id, name]));
  return rows.map(({ scope, name, schemeVersion, ended, reason, personId, at }) => ({
    scope,
    name,
    version: schemeVersion,
    ended,
    reason,
    who: nameOf.get(personId) ?? '',
    at,
  }));
}

/** All schemes of grades in force. */
export const gradeSchemes = question({
  role: 'technician',
  input: z.object({}),
  run: async (lab): Promise<SchemesPage> => {
    const [newest, models, history] = await Promise.all([
      newestSchemes(lab),
      lab.store.cellModels.find({}, { columns: ['id', 'name', 'chemistry'] }),
      historyOf(lab),
    ]);
    const own = [...newest.values()].filter(({ ended }) => !ended).map(schemeOf);
    const house = own.find(({ scope }) => scope === 'house') ?? HOUSE;
    return {
      schemes: [house, ...own.filter(({ scope }) => scope !== 'house')],
      models: models.map(({ id, name, chemistry }) => ({ id, name, chemistry })),
      history,
    };
  },
});
