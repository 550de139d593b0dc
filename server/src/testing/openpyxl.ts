import { execFileSync } from 'node:child_process';

/** A cell as openpyxl (3.0, of Debian) understands a file. */
export interface ReadCell {
  readonly formula: string | null;
  readonly value: unknown;
  readonly format: string;
  readonly bold: boolean;
  readonly align: string | null;
  readonly fill: string | null;
}

export interface ReadSheet {
  readonly name: string;
  /** The cell at the corner of what is not frozen, or null. */
  readonly frozen: string | null;
  readonly cells: Readonly<Record<string, ReadCell>>;
  readonly widths: Readonly<Record<string, number>>;
}

const READ = `
import io, json, sys, openpyxl, datetime
data = sys.stdin.buffer.read()
told = openpyxl.load_workbook(io.BytesIO(data))
worth = openpyxl.load_workbook(io.BytesIO(data), data_only=True)
def plain(v):
    return v.isoformat() if isinstance(v, (datetime.date, datetime.time)) else v
out = []
for sheet in told.worksheets:
    cells = {}
    for row in sheet.iter_rows():
        for c in row:
            v = worth[sheet.title][c.coordinate].value
            fill = c.fill.fgColor.rgb if c.fill.fill_type == 'solid' else None
            f = c.value if c.data_type == 'f' else None
            if v is None and f is None and fill is None and not c.font.b and c.alignment.horizontal is None: continue
            cells[c.coordinate] = dict(formula=f, value=plain(v), format=c.number_format, bold=bool(c.font.b), align=c.alignment.horizontal, fill=fill)
    widths = {k: d.width for k, d in sheet.column_dimensions.items() if d.customWidth}
    out.append(dict(name=sheet.title, frozen=sheet.freeze_panes, cells=cells, widths=widths))
json.dump(out, sys.stdout)
`;

const WRITE = `
import io, sys, openpyxl
from openpyxl.styles import Font, PatternFill, Alignment
book = openpyxl.Workbook()
sheet = book.active
sheet.title = 'Rota'
sheet['A1'] = 'Day'; sheet['B1'] = 'Boats'
sheet['A1'].font = Font(bold=True); sheet['B1'].alignment = Alignment(horizontal='right')
import datetime
sheet['A2'] = datetime.date(2026, 11, 30); sheet['A2'].number_format = 'yyyy-mm-dd'
sheet['B2'] = 4; sheet['B3'] = 2.5; sheet['B3'].number_format = '#,##0.00'
sheet['B4'] = '=SUM(B2:B3)*Costs!$A$1'
sheet['A3'] = True; sheet['A4'] = '007'
sheet['B2'].fill = PatternFill('solid', fgColor='FFCFE8CF')
sheet.freeze_panes = 'B2'
sheet.column_dimensions['A'].width = 20
costs = book.create_sheet('Costs')
costs['A1'] = 10
out = io.BytesIO(); book.save(out); sys.stdout.buffer.write(out.getvalue())
`;

/** Reads a workbook. */
export function openpyxlReads(bytes: Uint8Array): ReadSheet[] {
  return JSON.parse(python(READ, bytes).toString('utf8')) as ReadSheet[];
}

/** A small workbook that openpyxl writes: what a rota may hold. */
export function openpyxlWrites(): Uint8Array {
  return python(WRITE, new Uint8Array());
}

function python(script: string, input: Uint8Array): Buffer {
  return execFileSync('/usr/bin/python3', ['-c', script], { input, maxBuffer: 256 * 1024 * 1024 });
}
