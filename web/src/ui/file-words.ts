const en = {
  choose: 'Choose a file',
  other: 'Choose another file',
  lead: 'PDF, picture, office document or plain text, up to 25 MB. What counts is what is in it, not its name.',
  sending: 'Being sent …',
  remove: 'Take it off',
  show: (name: string) => `Look at ${name}`,
  save: 'Save to this computer',
  close: 'Close',
};
const de: typeof en = {
  choose: 'Datei wählen',
  other: 'Andere Datei wählen',
  lead: 'PDF, Bild, Dokument aus einem Büroprogramm oder reiner Text, bis 25 MB. Es zählt, was darin steht, nicht der Name.',
  sending: 'Wird gesendet …',
  remove: 'Wegnehmen',
  show: (name) => `${name} ansehen`,
  save: 'Auf diesem Rechner sichern',
  close: 'Schließen',
};

/** What files of rows say. */
export const fileWords = { en, de };
