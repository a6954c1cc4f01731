import { Columns3, Download } from 'lucide-react';

/** What stands on the button of the columns’ menu. */
export const COLUMNS = (
  <>
    <Columns3 size={15} aria-hidden /> Columns
  </>
);

/** And of the files’. */
export const FILE = (
  <>
    <Download size={15} aria-hidden /> File
  </>
);
