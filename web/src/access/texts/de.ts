import type { en } from './en';

export const de: typeof en = {
  entrance: {
    title: 'Anmelden',
    email: 'E-Mail',
    password: 'Passwort',
    signIn: 'Anmelden',
    signOut: 'Abmelden',
    demo: 'Konten dieser Demo',
    what: {
      administrator: 'Administration',
      specialist_fleet: 'Fachkraft, nur Fleet',
      harbour_manager: 'Hafenleitung, Tallinn',
      crew_member: 'Besatzung, eigener Datensatz',
      auditor: 'Prüfung, liest alles',
      wages_clerk: 'Lohnbuchhaltung, eine Gesellschaft',
      team_manager: 'Führungskraft, eigene Unterstellte',
      specialist_estonia: 'Fachkraft, Estland',
    },
  },
  setPassword: {
    title: 'Ein neues Passwort',
    what: 'Der geöffnete Link setzt das Passwort eines Kontos.',
    set: 'Passwort setzen',
    done: 'Gesetzt. Sie können sich jetzt anmelden.',
  },
  first: {
    title: 'Die erste Administration',
    what: 'Dieses Register hat noch kein Konto. Der geöffnete Link legt das erste an.',
    name: 'Name',
    make: 'Konto anlegen',
    done: 'Angelegt. Sie können sich jetzt anmelden.',
  },
};
