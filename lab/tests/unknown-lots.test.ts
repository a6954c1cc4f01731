import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import * as arrivals from '../src/arrivals';
import * as evidence from '../src/evidence';
import * as reports from '../src/reports';
import * as verdicts from '../src/verdicts';
import { failure } from '../testing/failure';
import { type FreshLab, freshLab } from '../testing/fresh-lab';

describe('a lot that is not there', () => {
  let fresh: FreshLab;
  beforeAll(async () => {
    fresh = await freshLab();
  });
  afterAll(() => fresh.close());

  const questions = {
    lotCurves: verdicts.lotCurves,
    lotOddCurves: verdicts.lotOddCurves,
    lotDerivatives: verdicts.lotDerivatives,
    rateSets: verdicts.rateSets,
    lotArrival: arrivals.lotArrival,
    arrivalCells: arrivals.arrivalCells,
    boxView: arrivals.boxView,
    packsOfLot: arrivals.packsOfLot,
    codesOfLot: arrivals.codesOfLot,
    triageOfLot: arrivals.triageOfLot,
    lotSample: arrivals.lotSample,
    lotFindings: arrivals.lotFindings,
    photosOfLot: arrivals.photosOfLot,
    offersOfLot: arrivals.offersOfLot,
    entryGrid: evidence.entryGrid,
    listReports: reports.listReports,
  };

  it.each(Object.entries(questions))('%s says so', async (_name, question) => {
    for (const lotId of [0, 999_999])
      expect(await failure(question(fresh.lab, fresh.admin, { lotId }))).toMatchObject({
        code: 'notFound',
      });
  });

  it('is told from a lot that is none of a number', async () => {
    const error = await failure(verdicts.lotCurves(fresh.lab, fresh.admin, { lotId: 1.5 }));
    expect(error.code).toBe('invalid');
  });
});
