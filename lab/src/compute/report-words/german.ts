import { DISPUTES } from './german-dispute';
import { CORRECTIONS, VERDICTS } from './german-judged';
import { ARRIVAL, CLAIM } from './german-things';
import type { Catalogue, Language } from './say';

const HEADS: Catalogue = [
  ['Test report {=number}', 'Prüfbericht {number}'],
  ['Report {=number}, {=lab}', 'Bericht {number}, {lab}'],
  ['page {=n} of {=all}', 'Seite {n} von {all}'],
  ['Customer', 'Kunde'],
  ['Issued', 'Ausgestellt'],
  ['{moment} UTC by {=person}', '{moment} UTC von {person}'],
  ['{moment}, {=zone}, by {=person}', '{moment}, {zone}, von {person}'],
  ['Tested by', 'Geprüft von'],
  ['Items', 'Gegenstände'],
  ['{=n} of lot {=code}, {=title}', '{n} aus Los {code}, {title}'],
  ['Received', 'Eingegangen'],
  ['not recorded', 'nicht festgehalten'],
  ['Model', 'Modell'],
  ['{=name}, {=chemistry}, {format}', '{name}, {chemistry}, {format}'],
  ['prism', 'prismatisch'],
  ['round', 'rund'],
  ['cylinder', 'zylindrisch'],
  ['cylindrical', 'zylindrisch'],
  ['prismatic', 'prismatisch'],
  ['Sodium-ion', 'Natrium-Ionen'],
  ['Marks on the cells in full', 'Marken auf den Zellen im Ganzen'],
  ['pouch', 'Beutelzelle'],
  ['string', 'Strang'],
  ['Claim', 'Zusage'],
  [
    'No claim is recorded; figures stand without a verdict.',
    'Keine Zusage ist festgehalten; die Werte stehen ohne Urteil.',
  ],
  ['Results', 'Ergebnisse'],
  ['Item', 'Zelle'],
  ['Capacity / Ah', 'Kapazität / Ah'],
  ['Energy / Wh', 'Energie / Wh'],
  ['R 10 s / mΩ', 'R 10 s / mΩ'],
  ['R AC / mΩ', 'R AC / mΩ'],
  ['SoH / %', 'SoH / %'],
  ['Capacity claim', 'Kapazitätszusage'],
  ['Grade', 'Güte'],
  ['open', 'offen'],
  ['waiting', 'wartet'],
  ['measured {value}', 'gemessen {value}'],
  ['at least {value}', 'mindestens {value}'],
  ['at most {value}', 'höchstens {value}'],
  ['Grades by {scheme}. “–”: not measured.', 'Güten nach {scheme}. „–“: nicht gemessen.'],
  ['{=scheme}, version {n}', '{scheme}, Fassung {n}'],
  ['Reasons and remarks', 'Gründe und Bemerkungen'],
  ['All items', 'Alle Zellen'],
  ['{=numbers} and {=n} more', '{numbers} und {n} weitere'],
  ['Capacity curves', 'Entladekurven'],
  ['charge given / Ah', 'abgegebene Ladung / Ah'],
  ['claim {n} Ah', 'Zusage {n} Ah'],
  ['cut-off {n} V', 'Entladeschluss {n} V'],
  ['capacity / Ah', 'Kapazität / Ah'],
  ['cells', 'Zellen'],
  ['Position in the lot', 'Lage im Los'],
  [
    '{=tested} of {=all} cells of lot {=code} tested to the cut-off: mean {mean} Ah, standard deviation {sd} Ah, lowest {low} Ah. Items of this report are ticked below the axis.',
    '{tested} von {all} Zellen des Loses {code} bis zum Entladeschluss geprüft: Mittel {mean} Ah, Standardabweichung {sd} Ah, kleinste {low} Ah. Zellen dieses Berichts sind unter der Achse markiert.',
  ],
  ['Rank by capacity: {=ranks}.', 'Rang nach Kapazität: {ranks}.'],
  ['{=item}: {=rank} of {=all}', '{item}: {rank} von {all}'],
  ['Method', 'Verfahren'],
  ['Instruments', 'Messgeräte'],
  ['No instrument is recorded for these items.', 'Für diese Zellen ist kein Gerät festgehalten.'],
  ['{=name} (serial {=serial})', '{name} (Nr. {serial})'],
  ['Not tested', 'Nicht geprüft'],
  ['Cautions for use and storage', 'Warnhinweise für Gebrauch und Lagerung'],
  [
    'The results relate only to the items tested.',
    'Die Ergebnisse gelten nur für die geprüften Zellen.',
  ],
];

const METHOD: Catalogue = [
  [
    'Capacity: each cell was discharged at constant current; charge was integrated by the trapezoid rule from load-on to the first time the terminal voltage fell to {n} V, interpolated inside the interval. Energy likewise.',
    'Kapazität: jede Zelle wurde mit Konstantstrom entladen; die Ladung wurde nach der Trapezregel integriert, vom Einschalten der Last bis die Klemmenspannung zum ersten Mal auf {n} V fiel, im Abschnitt interpoliert. Energie ebenso.',
  ],
  ['How the cells were held in the test: {what}.', 'Halterung der Zellen in der Prüfung: {what}.'],
  ['{#n} in a fixture at the data sheet’s force', '{n} eingespannt mit der Kraft des Datenblatts'],
  ['{#n} free', '{n} frei'],
  ['{#n} not recorded', '{n} nicht festgehalten'],
  [
    'The sample of the lot was opened again on {day} by {=person}: {=reason}',
    'Die Stichprobe der Charge wurde am {day} von {person} wieder geöffnet: {reason}',
  ],
  [
    'DC resistance: voltage before load-on less voltage 10 s after it, over the current.',
    'Gleichstromwiderstand: Spannung vor dem Einschalten weniger Spannung 10 s danach, durch den Strom.',
  ],
  [
    'AC resistance: at 1 kHz, four-wire, on the terminals. AC and DC resistance are different quantities and are not compared.',
    'Wechselstromwiderstand: bei 1 kHz, vierpolig, an den Klemmen. Wechsel- und Gleichstromwiderstand sind verschiedene Größen und werden nicht verglichen.',
  ],
  [
    'A result marked “at least” comes from a discharge that ended above the cut-off.',
    'Ein Ergebnis mit „mindestens“ stammt aus einer Entladung, die über dem Entladeschluss endete.',
  ],
  [
    'Where no instrument is named, the house default accuracy of an instrument not described was used: current 0.5 % and 0.1 % of the largest current, voltage 10 mV; AC resistance 2 %.',
    'Wo kein Gerät genannt ist, gilt die hauseigene Genauigkeit eines nicht beschriebenen Geräts: Strom 0,5 % und 0,1 % des größten Stroms, Spannung 10 mV; Wechselstromwiderstand 2 %.',
  ],
  [
    'Uncertainties are expanded uncertainties U with k = 2 (JCGM 100), about 95 % coverage.',
    'Unsicherheiten sind erweiterte Unsicherheiten U mit k = 2 (JCGM 100), etwa 95 % Überdeckung.',
  ],
  [
    'Decision rule: guard band w = {w} (after ILAC-G8:09/2019). “Met” when the result is inside the limit by at least w, “not met” when it is outside by more than w, “too close to call” between.',
    'Entscheidungsregel: Schutzabstand w = {w} (nach ILAC-G8:09/2019). „Erfüllt“, wenn das Ergebnis um mindestens w innerhalb der Grenze liegt, „nicht erfüllt“, wenn es um mehr als w außerhalb liegt, dazwischen „nicht entscheidbar“.',
  ],
  [
    'Decision rule: simple acceptance, no guard band. The risk of a wrong verdict near the limit is up to 50 %.',
    'Entscheidungsregel: einfache Annahme, kein Schutzabstand. Das Risiko eines falschen Urteils nahe der Grenze beträgt bis zu 50 %.',
  ],
  [
    'Capacity of {which}: no log was written; the tester’s display was read from time to time. Charge is its counter, or its current over time, up to the cut-off between two readings; the uncertainty holds what nobody saw between them.',
    'Kapazität von {which}: kein Protokoll wurde geschrieben; die Anzeige des Prüfgeräts wurde von Zeit zu Zeit abgelesen. Die Ladung ist sein Zähler oder sein Strom über die Zeit, bis zum Entladeschluss zwischen zwei Ablesungen; die Unsicherheit enthält, was dazwischen niemand sah.',
  ],
  [
    'Capacity of {which}: a single number as the tester showed it at the end.',
    'Kapazität von {which}: eine einzelne Zahl, wie das Prüfgerät sie am Ende zeigte.',
  ],
  [
    'Self-discharge: cells stood full, without load; their open-circuit voltage was read on the days of the protocol, the first day left to relaxation, and each was held against the others of its lot.',
    'Selbstentladung: die Zellen standen voll und ohne Last; ihre Leerlaufspannung wurde an den Tagen des Verfahrens gelesen, der erste Tag blieb der Entspannung, und jede wurde gegen die anderen ihrer Charge gehalten.',
  ],
  [
    'At rest for {n} days by the protocol {=name}: {what}.',
    '{n} Tage in Ruhe nach dem Verfahren {name}: {what}.',
  ],
  ['some', 'einige'],
  ['keeps its charge', 'hält ihre Ladung'],
  ['fast loss', 'verliert schnell'],
  ['looked at once more', 'wird noch einmal angesehen'],
  ['non-critical use', 'für unkritische Verwendung'],
  ['rejected', 'ausgesondert'],
  ['below its cut-off', 'unter ihrem Entladeschluss'],
  ['Voltage at rest: {n} mV a day.', 'Spannung in Ruhe: {n} mV am Tag.'],
  ['Charge lost at rest: {n} % in 30 days.', 'In Ruhe verlorene Ladung: {n} % in 30 Tagen.'],
  ['Charge kept over the rest: {n} %.', 'Über die Ruhe behaltene Ladung: {n} %.'],
  ['Without a capacity test: {which}.', 'Ohne Kapazitätsprüfung: {which}.'],
  [
    'Without a check of self-discharge at rest: {which}.',
    'Ohne Prüfung der Selbstentladung in Ruhe: {which}.',
  ],
  [
    'Without an AC resistance reading: {which}.',
    'Ohne Messung des Wechselstromwiderstands: {which}.',
  ],
  ['all items', 'alle Zellen'],
  ['{=n} items', '{n} Zellen'],
  [
    'Self-discharge at rest is not part of this report.',
    'Selbstentladung in Ruhe ist nicht Teil dieses Berichts.',
  ],
  ['current {a}, voltage {v}', 'Strom {a}, Spannung {v}'],
  ['calibrated {on}, due {due}', 'kalibriert {on}, fällig {due}'],
  [
    'calibrated {on}, due {due} (overdue on the day)',
    'kalibriert {on}, fällig {due} (am Tag der Prüfung überfällig)',
  ],
  ['calibrated {on}', 'kalibriert {on}'],
  ['no calibration date recorded', 'kein Kalibrierdatum festgehalten'],
  [
    'Calibration of {=name} was overdue on the day of the test (due {on}).',
    'Die Kalibrierung von {name} war am Tag der Prüfung überfällig (fällig {on}).',
  ],
];

const CAUTIONS: Catalogue = [
  [
    'Local codes, the maker’s data sheet and a licensed practitioner come first. This report does not say that any use is safe.',
    'Örtliche Vorschriften, das Datenblatt des Herstellers und eine zugelassene Fachkraft gehen vor. Dieser Bericht sagt von keinem Gebrauch, dass er sicher ist.',
  ],
  [
    'Charge lithium-ion cells only between 0 and 45 °C, never unattended the first time. A cell that gets hot on charge is finished.',
    'Lithium-Ionen-Zellen nur zwischen 0 und 45 °C laden, beim ersten Mal nie unbeaufsichtigt. Eine Zelle, die beim Laden heiß wird, ist am Ende.',
  ],
  [
    'Check that voltages are equal before joining cells in parallel; insulate tools; tighten terminals to the data sheet’s torque.',
    'Vor dem Parallelschalten prüfen, dass die Spannungen gleich sind; Werkzeug isolieren; Klemmen mit dem Drehmoment des Datenblatts anziehen.',
  ],
  [
    'Store part charged, cool and dry. Lithium cells are dangerous goods for transport; ask a qualified shipper.',
    'Teilgeladen, kühl und trocken lagern. Lithiumzellen sind beim Transport Gefahrgut; einen befugten Versender fragen.',
  ],
  [
    'At the end of life hand cells to a licensed battery recycler with terminals taped; never put them in household waste.',
    'Am Ende der Lebensdauer mit abgeklebten Klemmen einem zugelassenen Batterieverwerter geben; nie in den Hausmüll.',
  ],
];

/** Reports in German: numbers with a comma, days as day.month.year. */
export const GERMAN: Language = {
  decimal: ',',
  and: 'und',
  day: (year, month, day) => `${day}.${month}.${year}`,
  catalogue: [
    ...HEADS,
    ...CLAIM,
    ...METHOD,
    ...VERDICTS,
    ...CORRECTIONS,
    ...ARRIVAL,
    ...DISPUTES,
    ...CAUTIONS,
    // A sentence is what it says, with its full stop.
    ['{text}.', '{text}.'],
  ],
};
