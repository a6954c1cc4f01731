import { TERMINAL_WORDS } from './model-fields';

/** What the data sheet says of the terminals; a torque it does not give is asked for, not guessed. */
export function torqueWords(model: {
  name: string;
  terminalType: keyof typeof TERMINAL_WORDS | null;
  terminalTorqueNm: number | null;
}): string {
  const { name, terminalType, terminalTorqueNm } = model;
  const type = terminalType
    ? `Terminals: ${TERMINAL_WORDS[terminalType]}.`
    : `The data sheet of ${name} does not say what terminals it has.`;
  if (terminalType === 'tab' || terminalType === 'flat') return type;
  if (terminalTorqueNm !== null)
    return `${type} Torque by the data sheet: ${terminalTorqueNm} N·m.`;
  return `${type} Its torque is not recorded: ask the maker’s data sheet and enter it under Lab, Models. Threaded holes in aluminium take far less than a welded stud, so no value is offered here.`;
}
