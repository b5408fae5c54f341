export default async ({ go, press, shot, running, page, admin, endpoints, signInPage }: any) => {
  const make = async (kind: string, values: object) =>
    (
      await admin.call(endpoints.createRecord, {
        params: { kind },
        body: { from: '-infinity', sections: { [kind]: values } } as never,
      })
    ).id;
  const label = (en: string, de: string) => ({ en, de });
  const a = await make('own_section', {
    code: 'UNIFORM',
    label: label('Uniform', 'Dienstkleidung'),
    of: 'person',
    several: false,
    sensitive: false,
    place: 0,
  });
  const f = [];
  for (const [i, [code, l, kind]] of (
    [
      ['SIZE', label('Jacket size', 'Jackengröße'), 'number'],
      ['LOCKER', label('Locker', 'Spind'), 'text'],
      ['GIVEN', label('Handed out on', 'Ausgegeben am'), 'day'],
    ] as any[]
  ).entries())
    f.push(await make('own_field', { sectionId: a, code, label: l, kind, required: false, place: i * 10 }));
  await make('field_setting', {
    section: 'person',
    field: 'gender',
    label: label('Salutation group', 'Anredegruppe'),
    hiddenFrom: ['specialist', 'crew'],
    place: 50,
    shownIn: null,
  });
  await make('field_setting', {
    section: `own.${a}`,
    field: `f${f[2]}`,
    label: null,
    hiddenFrom: ['auditor'],
    place: null,
    shownIn: 'person',
  });
  const people = (await admin.call(endpoints.people, { query: { limit: 5 } })).people;
  const id = people[2].id;
  await admin.call(endpoints.saveEdits, {
    body: {
      edits: [
        {
          section: `own.${a}`,
          edit: {
            mode: 'create',
            from: '2026-01-01',
            until: 'infinity',
            values: { ownerId: id, [`f${f[0]}`]: '52', [`f${f[2]}`]: '2026-02-01' },
          },
        },
      ],
    } as never,
  });
  await signInPage(page, running.address, 'Tuuli');
  await go('/setup/fields');
  await shot('f1');
  await page.evaluate(() => document.querySelector('.presetfields')?.scrollIntoView());
  await shot('f2');
  await press('Change');
  await page.evaluate(() =>
    [...document.querySelectorAll('button')]
      .filter((b) => b.getAttribute('aria-label')?.startsWith('Change: Salutation'))[0]
      ?.click(),
  );
  await shot('f3');
  await go(`/people/${id}`);
  await page.evaluate(() => document.querySelector('#part-person')?.scrollIntoView());
  await shot('f4');
  await page.evaluate(() => ([...document.querySelectorAll('.brought button')][0] as any)?.click());
  await shot('f5');
};
