// The organisation of Vessmar Ferries as it is to be made: units with their staff, from the top. All invented.
import type { Port } from './structure';

/** A unit to be made: its staff as [job code, number of positions], the first being its head. */
export type Plan = {
  name: string;
  kind: string;
  staff: [string, number][];
  port?: Port;
  needsPosition?: boolean;
  /** Job of a crew position for several holders, with places. */
  crew?: [string, number];
  /** Job of a position without limits. */
  season?: string;
  below: Plan[];
};

const VESSELS = [
  'Vess Ejder',
  'Vess Tiira',
  'Vess Alka',
  'Vess Lomvi',
  'Vess Havella',
  'Vess Merikotka',
  'Vess Skarv',
  'Vess Tern',
  'Vess Ruokki',
  'Vess Lunde',
  'Vess Kajakas',
  'Vess Sula',
];

const plan = (name: string, kind: string, staff: [string, number][], more: Partial<Plan> = {}): Plan => ({
  name,
  kind,
  staff,
  below: [],
  ...more,
});

const vessel = (name: string, port: Port, size: number): Plan =>
  plan(name, 'VESSEL', [['MASTER', 1]], {
    port,
    below: [
      plan(`Deck, ${name}`, 'DEPARTMENT', [['CHOFF', 1]], {
        below: [
          plan(`Bridge, ${name}`, 'TEAM', [['OFFICER', 3]]),
          plan(
            `Deck crew, ${name}`,
            'TEAM',
            [
              ['BOSUN', 1],
              ['DECK', size],
            ],
            { crew: ['DECK', 4], season: 'DECK' },
          ),
        ],
      }),
      plan(`Engine, ${name}`, 'DEPARTMENT', [
        ['CHENG', 1],
        ['ENG2', 2],
        ['MOTOR', 3 + size],
      ]),
      plan(
        `Hotel, ${name}`,
        'DEPARTMENT',
        [
          ['HOTELM', 1],
          ['ASSIST', 1],
        ],
        {
          below: [
            plan(
              `Restaurant, ${name}`,
              'TEAM',
              [
                ['LEAD', 1],
                ['WAITER', 4 + size],
              ],
              {
                crew: ['WAITER', 3],
                below: [
                  plan(`Galley, ${name}`, 'TEAM', [
                    ['CHEF', 1],
                    ['COOK', 3 + size],
                  ]),
                ],
              },
            ),
            plan(
              `Cabins, ${name}`,
              'TEAM',
              [
                ['LEAD', 1],
                ['CABIN', 5 + size],
              ],
              { season: 'CABIN', needsPosition: false },
            ),
          ],
        },
      ),
    ],
  });

const harbour = (port: Port, size: number): Plan =>
  plan(
    `${port.name} Harbour`,
    'SITE',
    [
      ['HARBM', 1],
      ['ASSIST', 1],
    ],
    {
      port,
      below: [
        plan(
          `Terminal Services, ${port.name}`,
          'DEPARTMENT',
          [
            ['TERMM', 1],
            ['DUTY', 2],
            ['PAXAG', 2],
          ],
          { crew: ['PAXAG', 3] },
        ),
        plan(`Quay Operations, ${port.name}`, 'DEPARTMENT', [['QUAYM', 1]], {
          below: [
            plan(
              `Berths by day, ${port.name}`,
              'TEAM',
              [
                ['BERTH', 1],
                ['LINES', size],
              ],
              { crew: ['LINES', 3] },
            ),
            plan(`Berths by night, ${port.name}`, 'TEAM', [
              ['BERTH', 1],
              ['LINES', size],
            ]),
          ],
        }),
        plan(
          `Check-in and Tickets, ${port.name}`,
          'TEAM',
          [
            ['LEAD', 1],
            ['TICKET', 2 + size],
          ],
          { needsPosition: false },
        ),
      ],
    },
  );

const office = (name: string, teams: [string, number][]): Plan =>
  plan(
    name,
    'DIVISION',
    [
      ['DIR', 1],
      ['ASSIST', 1],
    ],
    {
      below: teams.map(([team, size]) =>
        plan(team, 'DEPARTMENT', [
          ['HEAD', 1],
          ['SPEC', size],
          ['ASSIST', Math.max(1, Math.round(size / 3))],
        ]),
      ),
    },
  );

/** The whole organisation, `fleets` times the vessels and harbours of the demo, teams `size` larger. */
export const organisationPlan = (ports: Port[], { fleets, size }: { fleets: number; size: number }): Plan => {
  const copies = Array.from({ length: fleets }, (_, i) => (i === 0 ? '' : ` ${i + 1}`));
  const portOf = (i: number) => ports[i % ports.length] as Port;
  return plan(
    'Vessmar Ferries',
    'COMPANY',
    [
      ['CEO', 1],
      ['ASSIST', 1],
    ],
    {
      port: portOf(0),
      below: [
        plan(
          'Fleet',
          'DIVISION',
          [
            ['DIR', 1],
            ['SPEC', 3],
          ],
          {
            below: [
              plan('Fleet Office', 'DEPARTMENT', [
                ['HEAD', 1],
                ['SPEC', 5],
              ]),
              ...copies.flatMap((copy) => VESSELS.map((name, i) => vessel(name + copy, portOf(i), size))),
            ],
          },
        ),
        plan('Harbours', 'DIVISION', [['DIR', 1]], {
          below: [
            plan('Harbour Office', 'DEPARTMENT', [
              ['HEAD', 1],
              ['SPEC', 4],
            ]),
            ...copies.flatMap((copy) =>
              ports.map((port) => harbour({ ...port, name: port.name + copy }, size)),
            ),
          ],
        }),
        plan(
          'Yards',
          'DIVISION',
          [
            ['DIR', 1],
            ['ASSIST', 1],
          ],
          {
            below: copies.flatMap((copy) =>
              [portOf(1), portOf(3), portOf(8)].map((port) =>
                plan(`${port.name} Yard${copy}`, 'SITE', [['YARDM', 1]], {
                  port,
                  below: ['Steel', 'Engines', 'Electrics'].map((what) =>
                    plan(`${what}, ${port.name} Yard${copy}`, 'TEAM', [
                      ['LEAD', 1],
                      ['FITTER', 3 + size],
                      ['WELDER', 2 + size],
                    ]),
                  ),
                }),
              ),
            ),
          },
        ),
        plan(
          'Guest Services',
          'DIVISION',
          [
            ['DIR', 1],
            ['SPEC', 2],
          ],
          {
            below: [
              'Shops North',
              'Shops South',
              'Restaurants',
              'Entertainment',
              'Cabin Standards',
              'Catering',
            ].map((team) =>
              plan(
                team,
                'DEPARTMENT',
                [
                  ['HEAD', 1],
                  ['SHOP', 8 + size],
                  ['ASSIST', 2],
                ],
                { needsPosition: false },
              ),
            ),
          },
        ),
        office('Commercial', [
          ['Sales', 12],
          ['Marketing', 8],
          ['Freight', 10],
          ['Pricing', 6],
        ]),
        office('Finance', [
          ['Accounting', 10],
          ['Controlling', 6],
          ['Payroll', 6],
          ['Treasury', 3],
        ]),
        office('People Office', [
          ['HR Operations', 7],
          ['Recruiting', 4],
          ['Learning', 4],
        ]),
        office('Digital', [
          ['Platforms', 10],
          ['Data', 6],
          ['Service Desk', 7],
        ]),
        office('Safety', [
          ['Audit', 4],
          ['Security', 6],
        ]),
      ],
    },
  );
};
