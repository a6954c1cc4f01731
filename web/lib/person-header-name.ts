/** Header that says whose page a request comes from. */
export const PERSON_HEADER = 'x-dusk-person';
