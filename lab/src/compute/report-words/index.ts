import { GERMAN } from './german';
import { type Language, speaker } from './say';

/** Languages reports are written in, by their code (ISO 639-1). */
export const REPORT_LANGUAGES = { en: 'English', de: 'Deutsch' } as const;
export type ReportLanguageCode = keyof typeof REPORT_LANGUAGES;

/** English is what the texts are kept in. */
const ENGLISH: Language = {
  catalogue: [],
  decimal: '.',
  and: 'and',
  day: (year, month, day) => `${year}-${month}-${day}`,
};
const LANGUAGES: Record<ReportLanguageCode, Language> = { en: ENGLISH, de: GERMAN };

/** Says the texts of a report in its language. */
export interface ReportWords {
  language: ReportLanguageCode;
  say: (text: string) => string;
  /** A number as it is written there; `–` and signs stay. */
  number: (text: string) => string;
}

/** Words of a language; reports of before languages are English. */
export const reportWords = (
  language: ReportLanguageCode = 'en',
  missed?: (text: string) => void,
): ReportWords =>
  language === 'en'
    ? { language, say: (text) => text, number: (text) => text }
    : { language, ...speaker(LANGUAGES[language], missed) };
