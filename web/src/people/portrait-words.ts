const en = {
  photoOf: (name: string) => `Photo of ${name}`,
  add: 'Add a photo',
  change: 'Change the photo',
  title: (name: string) => `Photo of ${name}`,
  choose: 'A picture',
  lead: 'JPEG, PNG or WebP. Only the square is kept; places and dates in the file are not.',
  zoom: 'Closer',
  save: 'Save photo',
  remove: 'Take it off the record',
  leave: 'Leave it',
};

const de: typeof en = {
  photoOf: (name) => `Foto von ${name}`,
  add: 'Foto hinzufügen',
  change: 'Foto ändern',
  title: (name) => `Foto von ${name}`,
  choose: 'Ein Bild',
  lead: 'JPEG, PNG oder WebP. Nur das Quadrat wird behalten; Orte und Daten in der Datei nicht.',
  zoom: 'Näher',
  save: 'Foto speichern',
  remove: 'Vom Datensatz nehmen',
  leave: 'So lassen',
};

/** What photos say. */
export const portraitWords = { en, de };
