import { COMMON_PASSWORDS } from './common-passwords';

/** Fewest characters of a password. */
export const LEAST_CHARACTERS = 12;
/** Most, so that a hash cannot be made to take for ever. */
export const MOST_CHARACTERS = 200;

const ROWS = ['1234567890', 'qwertyuiop', 'asdfghjkl', 'zxcvbnm', 'abcdefghijklmnopqrstuvwxyz'];
/** Rows of the keyboard and the alphabet, both ways, each twice so that it can be gone round. */
const RUNS = ROWS.flatMap((row) => [row, [...row].reverse().join('')]).map((row) => row + row);

/** Letters for the signs that are usually put in their place. */
const plainLetters = (text: string): string =>
  text
    .toLowerCase()
    .replace(/[@4]/g, 'a')
    .replace(/[0]/g, 'o')
    .replace(/[1!|]/g, 'i')
    .replace(/[3]/g, 'e')
    .replace(/[$5]/g, 's')
    .replace(/[7]/g, 't');

/** Longest part of a text that goes along a row of keys or the alphabet. */
function longestRun(text: string): number {
  let most = 0;
  for (let from = 0; from < text.length; from++)
    for (let length = most + 1; from + length <= text.length; length++) {
      if (!RUNS.some((run) => run.includes(text.slice(from, from + length)))) break;
      most = length;
    }
  return most;
}

/**
 * Why a password will not do; null where it will. Length is what counts (NIST SP 800-63B, 5.1.1.2):
 * no mixture of signs is asked for, and what is guessed first is refused.
 * @param own words an attacker knows: name, e-mail address, name of the lab.
 */
export function passwordProblem(password: string, own: readonly string[]): string | null {
  if (password.length < LEAST_CHARACTERS)
    return `Expected at least ${LEAST_CHARACTERS} characters; a few words with blanks between will do.`;
  if (password.length > MOST_CHARACTERS) return `Expected at most ${MOST_CHARACTERS} characters.`;
  const lower = password.toLowerCase();
  if (new Set(lower).size < 5) return 'Expected more than a few different characters.';
  if (longestRun(lower.replace(/[^a-z0-9]/g, '')) >= lower.length - 2)
    return 'Keys beside one another are guessed first: choose another.';
  const half = lower.slice(0, Math.ceil(lower.length / 2));
  if (half.length >= 2 && lower === half + half.slice(0, lower.length - half.length))
    return 'The same twice is guessed first: choose another.';
  const forms = [lower, lower.replace(/[\d!?.\s_-]+$/, '')]
    .flatMap((form) => [form, plainLetters(form)])
    .flatMap((form) => [form, form.replace(/[^a-z]/g, '')]);
  if (forms.some((form) => COMMON_PASSWORDS.has(form)))
    return 'This is among the passwords guessed first: choose another.';
  const known = own
    .flatMap((word) => word.toLowerCase().split(/[@.\s]+/))
    .filter((word) => word.length >= 4);
  const left = known.reduce((text, word) => text.replaceAll(word, ''), lower);
  if (left.replace(/[^a-z0-9]/g, '').length < 6 && left !== lower)
    return 'Expected more than your name, your address or the lab’s name.';
  return null;
}
