import { StyleSheet } from '@react-pdf/renderer';
import { FONT_STACK } from './fonts';

/** Colours of the printed report. */
export const INK = {
  text: '#1d2430',
  quiet: '#5a6473',
  rule: '#d5d9df',
  curve: '#2f5d8a',
  bar: '#9db4c8',
  claim: '#a3541f',
};

export const styles = StyleSheet.create({
  page: {
    padding: 46,
    paddingBottom: 58,
    fontFamily: FONT_STACK,
    fontSize: 9,
    color: INK.text,
    lineHeight: 1.4,
  },
  mark: { position: 'absolute', top: 40, right: 46 },
  title: { fontSize: 18, fontWeight: 600, lineHeight: 1.2, marginBottom: 4 },
  lead: { fontSize: 9.5, color: INK.quiet, marginBottom: 14 },
  heading: { fontSize: 11, fontWeight: 600, marginTop: 12, marginBottom: 4 },
  pair: { flexDirection: 'row', marginBottom: 1.5 },
  name: { width: 120, color: INK.quiet },
  value: { flex: 1 },
  row: {
    flexDirection: 'row',
    borderBottomWidth: 0.5,
    borderBottomColor: INK.rule,
    paddingVertical: 2.5,
  },
  head: {
    flexDirection: 'row',
    borderBottomWidth: 1,
    borderBottomColor: INK.text,
    paddingBottom: 2.5,
    fontWeight: 600,
    fontSize: 8,
  },
  cell: { paddingRight: 4, fontSize: 8 },
  right: { textAlign: 'right' },
  count: { textAlign: 'right', paddingRight: 12 },
  small: { fontSize: 7.5, color: INK.quiet },
  footer: {
    position: 'absolute',
    // From the top of A4: with a line height on the page, a distance from the bottom is lost.
    top: 802,
    left: 46,
    right: 46,
    flexDirection: 'row',
    justifyContent: 'space-between',
    fontSize: 7.5,
    color: INK.quiet,
  },
  item: { marginBottom: 2, fontSize: 8.5 },
  quote: { borderLeftWidth: 1.5, borderLeftColor: INK.rule, paddingLeft: 6 },
  pictures: { flexDirection: 'row', flexWrap: 'wrap', marginTop: 4 },
});
