// npm run demo-files: makes the files to import that ship with the demo, clean and faulty, from a fixed seed.
import { mkdirSync, writeFileSync } from 'node:fs';
import { stringify } from 'csv-stringify/sync';
import excel from 'exceljs';
import JSZip from 'jszip';
import { Names } from '../demo/names';
import { Chance } from '../demo/random';

const FOLDER = 'demo/files';
const HEADINGS = [
  'Given name',
  'Family name',
  'Email',
  'Nationality',
  'First day',
  'Unit',
  'Job',
  'Worker type',
  'Contract',
  'Fixed until',
  'Pay',
  'Manager',
  'Locker',
];
const VESSELS = ['Tiira', 'Ejder', 'Kajakas', 'Lunde', 'Ruokki', 'Alka'];
const COLUMN = (name: string): number => HEADINGS.indexOf(name);

const names = new Names(20261123);
const chance = new Chance(4680);

/** Cabin crew of a summer season, hired into units whose hires need no position. */
const crew = (count: number, mark: string): string[][] => {
  const rows: string[][] = [];
  for (let i = 0; i < count; i++) {
    const { given, family, nationality } = names.next('FI', chance);
    const email = `${mark}${100 + i}@crew.example`;
    const firstDay = `2027-05-${String(chance.int(1, 28)).padStart(2, '0')}`;
    const unit = `Cabins, Vess ${VESSELS[i % VESSELS.length]}`;
    const terms = ['Cabin Attendant', 'Employee', 'Seasonal', '2027-09-30', '2700'];
    rows.push([given, family, email, nationality, firstDay, unit, ...terms, '', `L${i + 1}`]);
  }
  return rows;
};

const isoDay = /^(\d{4})-(\d{2})-(\d{2})$/;

const workbook = async (file: string, rows: readonly string[][]): Promise<void> => {
  const book = new excel.Workbook();
  book.created = new Date(0);
  book.modified = new Date(0);
  const sheet = book.addWorksheet('Season crew');
  sheet.addRow(HEADINGS).font = { bold: true };
  for (const row of rows)
    sheet.addRow(row.map((cell) => (isoDay.test(cell) ? new Date(`${cell}T00:00:00Z`) : cell)));
  sheet.columns.forEach((column) => (column.width = 18));
  await book.xlsx.writeFile(`${FOLDER}/${file}`);
};

/** Thirty rows with five kinds of faults: a ring of managers, an unknown unit, no first day, no such day, an email twice. */
const spoil = (rows: readonly string[][]): string[][] => {
  const spoiled = rows.map((row) => [...row]);
  const put = (row: number, column: string, text: string) => {
    (spoiled[row] as string[])[COLUMN(column)] = text;
  };
  const emailOf = (row: number) => (spoiled[row] as string[])[COLUMN('Email')] as string;
  put(4, 'Manager', emailOf(5));
  put(5, 'Manager', emailOf(4));
  put(11, 'Unit', 'Cabins, Vess Tira');
  put(14, 'First day', '');
  put(19, 'First day', '31.06.2027');
  put(25, 'Email', emailOf(24));
  return spoiled;
};

mkdirSync(FOLDER, { recursive: true });
const clean = crew(24, 'season');
writeFileSync(
  `${FOLDER}/season-crew.csv`,
  stringify([['# Season crew, cabins, summer 2027'], HEADINGS, ...clean], { delimiter: ';' }),
);
await workbook('season-crew.xlsx', clean);
const faulty = spoil(crew(30, 'summer'));
writeFileSync(`${FOLDER}/season-crew-faulty.csv`, stringify([HEADINGS, ...faulty]));
await workbook('season-crew-faulty.xlsx', faulty);
const phones = Array.from({ length: 12 }, (_, i) => [String(1003 + i), `+358 40 ${5551200 + i}`]);
writeFileSync(
  `${FOLDER}/telefonnummern.tsv`,
  stringify([['Personalnummer', 'Telefon'], ...phones], { delimiter: '\t' }),
);

// A pilots' station, one file for each kind of thing; the faulty ones have a row more that lacks something, one that names what is
// not there, and one that stands twice.
const STATION: Record<string, string[][]> = {
  'lists.csv': [
    ['List', 'Code', 'Label (en)', 'Label (de)'],
    ['origin', 'HPAY', 'Harbour payroll', 'Hafenlohn'],
    ['unit_kind', 'STATION', 'Station', 'Station'],
  ],
  'legal-entities.csv': [
    ['Code', 'Name', 'Country', 'Currency'],
    ['V-PIL', 'Vessmar Pilots Oy', 'FI', 'EUR'],
  ],
  'locations.csv': [
    ['Code', 'Name', 'City', 'Country', 'Time zone', 'Full time'],
    ['L-PIL', 'Pilot station', 'Porkkala', 'FI', 'Europe/Helsinki', '37,5'],
  ],
  'cost-centres.csv': [
    ['Code', 'Name'],
    ['C-PIL', 'Pilots'],
  ],
  'grades.csv': [
    ['Code', 'Name', 'Level', 'Steps'],
    ['GP', 'Pilots', '9', '4'],
  ],
  'jobs.csv': [
    ['Code', 'Name', 'Title', 'FTE limit', 'Grade', 'Came from', 'Its id there', 'In effect from'],
    ['PILOT', 'Pilot', 'Pilot', '1,00', 'GP', 'HPAY', '77', '1.1.2027'],
    ['BOATS', 'Boatswain, pilots', 'Boatswain', '1,00', '', 'HPAY', '78', '1.1.2027'],
  ],
  'units.csv': [
    ['Code', 'Name', 'Kind', 'Unit above', 'Head position', 'Location', 'In effect from'],
    ['PILOTS', 'Pilots', 'STATION', 'Harbours', 'PIL-1', 'Pilot station', '1.1.2027'],
  ],
  'positions.csv': [
    ['Code', 'Title', 'Unit', 'Job', 'In effect from'],
    ['PIL-1', 'Chief pilot', 'PILOTS', 'PILOT', '1.1.2027'],
    ['PIL-2', 'Pilot', 'PILOTS', 'PILOT', '1.1.2027'],
    ['PIL-3', 'Boatswain', 'PILOTS', 'BOATS', '1.1.2027'],
  ],
  'people.csv': [
    ['Given name', 'Family name', 'Email', 'First day', 'Position', 'Worker type', 'Pay', 'Currency'],
    ['Öllé', 'Måård', 'olle.maard@pilots.example', '1.2.2027', 'PIL-1', 'Employee', '5.200,50', 'EUR'],
    ['Aino', 'Lotsmann', 'aino.lotsmann@pilots.example', '1.2.2027', 'PIL-2', 'Employee', '4.100', 'EUR'],
  ],
  'contacts.csv': [
    ['Person', 'Kind', 'Use', 'Address or number'],
    ['1003', 'phone', 'private', '+358 40 5551299'],
    ['1004', 'phone', 'private', '+358 40 5551298'],
  ],
};
const FAULTY: Record<string, string[][]> = {
  'jobs.csv': [
    ['STOKER', '', 'Stoker', '1,00', '', '', '', '1.1.2027'],
    ['STOKER2', 'Stoker two', 'Stoker', '1,00', 'G99', '', '', '1.1.2027'],
    ['STOKER3', 'Stoker three', 'Stoker', '1,00', '', '', '', '1.1.2027'],
    ['STOKER3', 'Stoker three again', 'Stoker', '1,00', '', '', '', '1.1.2027'],
  ],
  'positions.csv': [
    ['PIL-4', 'Pilot', '', 'PILOT', '1.1.2027'],
    ['PIL-5', 'Pilot', 'PILOTZ', 'PILOT', '1.1.2027'],
    ['PIL-6', 'Pilot', 'PILOTS', 'PILOT', '1.1.2027'],
    ['PIL-6', 'Pilot twice', 'PILOTS', 'PILOT', '1.1.2027'],
  ],
};
const station = async (faulty: boolean): Promise<void> => {
  const zip = new JSZip();
  for (const [name, lines] of Object.entries(STATION)) {
    const all = faulty ? [...lines, ...(FAULTY[name] ?? [])] : lines;
    zip.file(name, stringify(all, { delimiter: ';' }), { date: new Date(0) });
  }
  const content = await zip.generateAsync({ type: 'nodebuffer', compression: 'DEFLATE' });
  writeFileSync(`${FOLDER}/pilot-station${faulty ? '-faulty' : ''}.zip`, content);
};
await station(false);
await station(true);
