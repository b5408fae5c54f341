export const en = {
  entrance: {
    title: 'Sign in',
    email: 'Email',
    password: 'Password',
    signIn: 'Sign in',
    signOut: 'Sign out',
    demo: 'Accounts of this demo',
    what: {
      administrator: 'administrator',
      specialist_fleet: 'specialist, Fleet only',
      harbour_manager: 'harbour manager, Tallinn',
      crew_member: 'crew member, own record',
      auditor: 'auditor, reads everything',
      wages_clerk: 'wages clerk, one legal entity',
      team_manager: 'manager, own reports',
      specialist_estonia: 'specialist, Estonia',
    },
  },
  setPassword: {
    title: 'A new password',
    what: 'The link you opened sets the password of an account.',
    set: 'Set password',
    done: 'Set. You can sign in now.',
  },
  first: {
    title: 'The first administrator',
    what: 'This register has no account yet. The link you opened makes the first one.',
    name: 'Name',
    make: 'Make the account',
    done: 'Made. You can sign in now.',
  },
};
