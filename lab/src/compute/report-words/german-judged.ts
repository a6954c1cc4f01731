import type { Catalogue } from './say';

/** Verdicts, grades and why not a better one. */
export const VERDICTS: Catalogue = [
  ['met', 'erfüllt'],
  ['not met', 'nicht erfüllt'],
  ['too close to call', 'nicht entscheidbar'],
  ['at least; open', 'mindestens; offen'],
  ['not comparable', 'nicht vergleichbar'],
  [
    'AC resistance against claim: {verdict}.',
    'Wechselstromwiderstand gegen die Zusage: {verdict}.',
  ],
  ['Not {=grade} yet: waiting for {what*}.', 'Noch nicht {grade}: wartet auf {what}.'],
  ['Not {=grade}: {why}.', 'Nicht {grade}: {why}.'],
  ['{=grade}, whatever it measures: {why}.', '{grade}, was immer sie misst: {why}.'],
  [
    '{=grade} at best: it was at {v} V once, below 1.0 V.',
    'Bestenfalls {grade}: sie war einmal bei {v} V, unter 1,0 V.',
  ],
  ['{name} {#n} ± {#u} %: {by} % below {limit} %', '{name} {#n} ± {#u} %: {by} % unter {limit} %'],
  ['{name} {#n} ± {#u} %: {by} % above {limit} %', '{name} {#n} ± {#u} %: {by} % über {limit} %'],
  ['{name} {#n} ± {#u} %: too close to {limit} %', '{name} {#n} ± {#u} %: zu nahe an {limit} %'],
  [
    '{name} {#n} ± {#u} months: {by} months above {limit} months',
    '{name} {#n} ± {#u} Monate: {by} Monate über {limit} Monaten',
  ],
  [
    '{name} {#n} ± {#u} months: too close to {limit} months',
    '{name} {#n} ± {#u} Monate: zu nahe an {limit} Monaten',
  ],
  ['{name} {#n} ± {#u} V: {by} V below {limit} V', '{name} {#n} ± {#u} V: {by} V unter {limit} V'],
  ['{name} {#n} ± {#u} V: too close to {limit} V', '{name} {#n} ± {#u} V: zu nahe an {limit} V'],
  ['{name} {=n} ± {#u}: {by} above {limit}', '{name} {n} ± {u}: {by} über {limit}'],
  ['{name} {=n} ± {#u}: too close to {limit}', '{name} {n} ± {u}: zu nahe an {limit}'],
  ['{name} {#n}: {by} above {limit}', '{name} {#n}: {by} über {limit}'],
  ['{name} {#n}: too close to {limit}', '{name} {#n}: zu nahe an {limit}'],
  ['{name} at least', '{name} mindestens'],
  ['{name} at most', '{name} höchstens'],
  ['{name} at least {#n} %', '{name} mindestens {n} %'],
  ['{name} at most {#n} %', '{name} höchstens {n} %'],
  ['{name} at most {#n} months', '{name} höchstens {n} Monate'],
  ['{name} at least {#n} V', '{name} mindestens {n} V'],
  ['{name} at most {#n}', '{name} höchstens {n}'],
  ['loses no charge at rest', 'verliert in Ruhe keine Ladung'],
  ['stayed cool on charge', 'blieb beim Laden kühl'],
  ['nothing found in its inspection', 'bei der Sichtprüfung nichts gefunden'],
  [
    'nothing beyond a note found in its inspection',
    'bei der Sichtprüfung höchstens etwas Anzumerkendes gefunden',
  ],
  [
    'nothing dangerous found in its inspection',
    'bei der Sichtprüfung nichts Gefährliches gefunden',
  ],
  [
    '{=grade} without an inspection: the grades do not ask for one.',
    '{grade} ohne Sichtprüfung: die Güten verlangen keine.',
  ],
  ['what no better grade takes', 'was keine bessere Güte nimmt'],
  ['non-critical use only', 'nur für unkritische Zwecke'],
  [
    'A figure too close to its limit was enough for a grade: the doubt is with the buyer.',
    'Ein nicht entscheidbarer Wert genügte für eine Güte: der Zweifel liegt beim Käufer.',
  ],
  [
    'A figure too close to its limit was not enough for a grade: the doubt is with the laboratory.',
    'Ein nicht entscheidbarer Wert genügte nicht für eine Güte: der Zweifel liegt beim Labor.',
  ],
  ['SoH', 'SoH'],
  ['capacity against claim', 'Kapazität gegen die Zusage'],
  ['energy against claim', 'Energie gegen die Zusage'],
  ['AC resistance against claim', 'Wechselstromwiderstand gegen die Zusage'],
  ['AC resistance against the lot’s median', 'Wechselstromwiderstand gegen den Median des Loses'],
  ['DC resistance against claim', 'Gleichstromwiderstand gegen die Zusage'],
  ['DC resistance against the lot’s median', 'Gleichstromwiderstand gegen den Median des Loses'],
  ['mass off the claim', 'Masse abweichend von der Zusage'],
  ['thickness against claim', 'Dicke gegen die Zusage'],
  ['age on arrival', 'Alter bei Ankunft'],
  ['early rise on charge against the lot', 'früher Anstieg beim Laden gegen das Los'],
  ['recoveries from deep discharge', 'Wiederbelebungen nach Tiefentladung'],
  ['discharges measured here', 'hier gemessene Entladungen'],
  ['lowest voltage ever read', 'niedrigste je gelesene Spannung'],
  [
    'a capacity test at the claim’s conditions',
    'eine Kapazitätsprüfung unter den zugesagten Bedingungen',
  ],
  ['a discharge with its log', 'eine Entladung mit Protokoll'],
  [
    'AC resistance readings of five cells of the lot',
    'Messungen des Wechselstromwiderstands von fünf Zellen des Loses',
  ],
  ['a DC resistance at the claim’s step', 'ein Gleichstromwiderstand beim zugesagten Stromschritt'],
  ['DC resistances of five cells of the lot', 'Gleichstromwiderstände von fünf Zellen des Loses'],
  ['its mass', 'ihre Masse'],
  ['its thickness', 'ihre Dicke'],
  ['its production date', 'ihr Herstellungsdatum'],
  ['charge curves of five cells of the lot', 'Ladekurven von fünf Zellen des Loses'],
  ['a first voltage', 'eine erste Spannung'],
  ['a discharge', 'eine Entladung'],
  ['a charge with its temperature watched', 'eine Ladung mit gemessener Temperatur'],
  [
    'a discharge down to the cut-off without a gap',
    'eine Entladung bis zur Entladeschlussspannung ohne Lücke',
  ],
  ['≥ {#n}', '≥ {n}'],
  ['a look at its channel', 'einen Blick auf ihren Kanal'],
  ['a look at what is held', 'einen Blick auf das Zurückgehaltene'],
  ['another result: this one is set aside', 'ein anderes Ergebnis: dieses ist beiseitegelegt'],
  ['its figures', 'ihre Werte'],
  ['it heated on charge', 'sie erwärmte sich beim Laden'],
  [
    '{=grade} by decision of {=who} on {day}: {=why}.',
    '{grade} durch Entscheid von {who} am {day}: {why}.',
  ],
  ['By the scheme it would be {=grade}.', 'Nach dem Schema wäre sie {grade}.'],
  ['By the scheme it waits for {what*}.', 'Nach dem Schema wartet sie auf {what}.'],
  ['The scheme says the same.', 'Das Schema sagt dasselbe.'],
  [
    'A decision for {=grade} does not count: there is no such grade now.',
    'Ein Entscheid für {grade} zählt nicht: diese Güte gibt es nicht mehr.',
  ],
  [
    'A decision for {=grade} does not count: no person lifts this block.',
    'Ein Entscheid für {grade} zählt nicht: diese Sperre hebt niemand auf.',
  ],
  ['inspection found something to note', 'die Eingangsprüfung fand Nennenswertes'],
  ['a capacity test', 'eine Kapazitätsprüfung'],
  ['an AC resistance reading', 'eine Messung des Wechselstromwiderstands'],
  ['the self-discharge check', 'die Prüfung der Selbstentladung'],
  ['the inspection', 'die Eingangsprüfung'],
  ['it loses charge at rest', 'sie verliert in Ruhe Ladung'],
  ['inspection found something serious', 'die Eingangsprüfung fand Ernstes'],
  ['inspection found something stop', 'die Eingangsprüfung fand, was ausschließt'],
  [
    'the uncertainty of {name} (no uncertainty known)',
    'die Unsicherheit von {name} (keine Unsicherheit bekannt)',
  ],
  ['Capacity is held back: {why}', 'Die Kapazität ist zurückgehalten: {why}'],
];

/** How a result was carried to the claim’s conditions. */
export const CORRECTIONS: Catalogue = [
  [
    'From {from} °C to {to} °C: {factor} at {below} %/K below {knee} °C and {above} %/K above ({source}).',
    'Von {from} °C auf {to} °C: {factor} bei {below} %/K unter {knee} °C und {above} %/K darüber ({source}).',
  ],
  [
    'From {from} It to {to} It: {factor} with k = {k} ± {u} ({source}).',
    'Von {from} It auf {to} It: {factor} mit k = {k} ± {u} ({source}).',
  ],
  [
    'Loaded {n} min after charge instead of an hour: nothing is corrected, {u} is added.',
    '{n} min nach dem Laden belastet statt nach einer Stunde: nichts wird korrigiert, {u} kommen hinzu.',
  ],
  [
    'Runs of one cell scatter by {n} ({source}); added to the uncertainty.',
    'Prüfungen einer Zelle streuen um {n} ({source}); zur Unsicherheit hinzugenommen.',
  ],
  [
    '{=channel} reads {n} high (± {u}, {=count} results); divided out.',
    '{channel} zeigt {n} zu viel (± {u}, {count} Ergebnisse); herausgerechnet.',
  ],
  [
    '{=channel} reads {n} low (± {u}, {=count} results); divided out.',
    '{channel} zeigt {n} zu wenig (± {u}, {count} Ergebnisse); herausgerechnet.',
  ],
  [
    '{=channel} cannot be told from the others ({n} ± {u}, {=count} result(s) only); kept as uncertainty.',
    '{channel} ist von den anderen nicht zu unterscheiden ({n} ± {u}, nur {count} Ergebnisse); als Unsicherheit behalten.',
  ],
  [
    '{=channel} cannot be told from the others ({n} ± {u}); kept as uncertainty.',
    '{channel} ist von den anderen nicht zu unterscheiden ({n} ± {u}); als Unsicherheit behalten.',
  ],
  ['house default', 'Hausvorgabe'],
  ['from this lab’s repeats', 'aus Wiederholungen dieses Labors'],
  [
    'Measured at {from} °C, claimed at {to} °C: a capacity is carried over at most {k} K, and not from below {cold} °C.',
    'Gemessen bei {from} °C, zugesagt bei {to} °C: eine Kapazität wird über höchstens {k} K übertragen und nicht von unter {cold} °C.',
  ],
  [
    'Measured at {from} It, claimed at {to} It: a capacity is carried over a factor of at most {n}.',
    'Gemessen mit {from} It, zugesagt mit {to} It: eine Kapazität wird höchstens über einen Faktor {n} übertragen.',
  ],
  [
    'The log shows {n} min of rest before the load; whether the cell rested an hour after charge is not recorded in it.',
    'Das Protokoll zeigt {n} min Ruhe vor der Last; ob die Zelle nach dem Laden eine Stunde ruhte, steht nicht darin.',
  ],
  [
    'Typed in: rate, cut-off and temperature of the test are not recorded.',
    'Von Hand eingetragen: Strom, Entladeschluss und Temperatur der Prüfung sind nicht festgehalten.',
  ],
  [
    'Typed in: the cut-off of the test is not recorded.',
    'Von Hand eingetragen: der Entladeschluss der Prüfung ist nicht festgehalten.',
  ],
  [
    'Nobody recorded the temperature: nothing is corrected, {u} is added (± {k} K at {n}/K).',
    'Niemand hat die Temperatur festgehalten: nichts wird korrigiert, {u} kommen hinzu (± {k} K bei {n}/K).',
  ],
  [
    'Nobody recorded the temperature: nothing is corrected, {u} is added (the room is kept at {a} to {b} °C, {n}/K).',
    'Niemand hat die Temperatur festgehalten: nichts wird korrigiert, {u} kommen hinzu (der Raum wird auf {a} bis {b} °C gehalten, {n}/K).',
  ],
  [
    'Claimed with the cell held in a fixture at the data sheet’s force, tested free: practitioners differ on what that does, so no number is put on it.',
    'Zugesagt für die Zelle eingespannt mit der Kraft des Datenblatts, geprüft frei: was das ausmacht, sehen Fachleute verschieden; darum steht dafür keine Zahl.',
  ],
  [
    'Claimed with the cell held in a fixture at the data sheet’s force; how it was held in the test is not recorded.',
    'Zugesagt für die Zelle eingespannt mit der Kraft des Datenblatts; wie sie in der Prüfung gehalten wurde, ist nicht festgehalten.',
  ],
  [
    'Claimed with the cell held free, tested in a fixture at the data sheet’s force: practitioners differ on what that does, so no number is put on it.',
    'Zugesagt für die Zelle frei, geprüft eingespannt mit der Kraft des Datenblatts: was das ausmacht, sehen Fachleute verschieden; darum steht dafür keine Zahl.',
  ],
  [
    'Claimed with the cell held free; how it was held in the test is not recorded.',
    'Zugesagt für die Zelle frei; wie sie in der Prüfung gehalten wurde, ist nicht festgehalten.',
  ],
  [
    'Claimed at {to} It; the current it was discharged at is not recorded. Type what the tester was set to, as Current as shown beside the capacity.',
    'Zugesagt mit {to} It; der Entladestrom ist nicht festgehalten. Tragen Sie den am Prüfgerät eingestellten Strom neben der Kapazität ein.',
  ],
  [
    'Claimed at {to} °C, the temperature of the reading was not recorded: nothing is corrected, {u} is added (± {k} K).',
    'Zugesagt bei {to} °C, die Temperatur der Ablesung ist nicht festgehalten: nichts wird korrigiert, {u} kommen hinzu (± {k} K).',
  ],
  [
    'Claimed at {to} °C, the temperature of the reading was not recorded: nothing is corrected, {u} is added (the room is kept at {a} to {b} °C).',
    'Zugesagt bei {to} °C, die Temperatur der Ablesung ist nicht festgehalten: nichts wird korrigiert, {u} kommen hinzu (der Raum wird auf {a} bis {b} °C gehalten).',
  ],
  [
    'Read at {from} °C, for {to} °C: nothing is corrected, {u} is added.',
    'Abgelesen bei {from} °C, für {to} °C: nichts wird korrigiert, {u} kommen hinzu.',
  ],
  [
    'Measured at {from} °C, for {to} °C: a DC resistance is carried over at most {k} K.',
    'Gemessen bei {from} °C, für {to} °C: ein Gleichstromwiderstand wird über höchstens {k} K übertragen.',
  ],
  [
    'Claimed at {to} % of charge; how full the cell was is not recorded: nothing is corrected, {u} is added.',
    'Zugesagt bei {to} % Ladung; wie voll die Zelle war, ist nicht festgehalten: nichts wird korrigiert, {u} kommen hinzu.',
  ],
];
