import { accessEndpoints } from './access/access.endpoints';
import type { Endpoint } from './endpoint';
import { fileEndpoints } from './files/files.endpoints';
import { keptFileEndpoints } from './files/kept-files.endpoints';
import { takeOutEndpoints } from './files/take-outs.endpoints';
import { measureEndpoints } from './measures/measures.endpoints';
import { draftEndpoints } from './movements/draft.endpoints';
import { movementEndpoints } from './movements/movement.endpoints';
import { onTheirWayEndpoints } from './movements/on-their-way.endpoints';
import { honourEndpoints } from './people/honours.endpoints';
import { peopleEndpoints } from './people/people.endpoints';
import { reportEndpoints } from './reports/reports.endpoints';
import { calendarEndpoints } from './structure/calendar.endpoints';
import { pictureEndpoints } from './people/pictures.endpoints';
import { listEndpoints } from './structure/lists';
import { ownValueEndpoints } from './structure/own-values.endpoints';
import { structureEndpoints } from './structure/structure.endpoints';
import { catalogueEndpoints } from './time/catalogue.endpoints';
import { journalEndpoints, recordEndpoints } from './time/records.endpoints';

/** The one list: the server serves it, the client calls it, the OpenAPI page and the walk over rights are made from it. */
export const endpoints = {
  ...accessEndpoints,
  ...catalogueEndpoints,
  ...recordEndpoints,
  ...journalEndpoints,
  ...peopleEndpoints,
  ...honourEndpoints,
  ...structureEndpoints,
  ...ownValueEndpoints,
  ...listEndpoints,
  ...calendarEndpoints,
  ...pictureEndpoints,
  ...movementEndpoints,
  ...onTheirWayEndpoints,
  ...draftEndpoints,
  ...measureEndpoints,
  ...fileEndpoints,
  ...keptFileEndpoints,
  ...takeOutEndpoints,
  ...reportEndpoints,
} satisfies Record<string, Endpoint>;

/** All endpoints by name. */
export type Endpoints = typeof endpoints;
/** The name of an endpoint. */
export type EndpointName = keyof Endpoints;
