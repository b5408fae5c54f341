import { type ComponentType, lazy } from 'react';
import { underWay } from '../under-way';

/** A part of the pages that is loaded when it is shown first; the page has not settled before it is there. */
// eslint-disable-next-line @typescript-eslint/no-explicit-any -- as React's own: what a part is given is its own matter
export const lazily = <C extends ComponentType<any>>(load: () => Promise<C>) =>
  lazy(async () => {
    const over = underWay();
    try {
      return { default: await load() };
    } finally {
      over();
    }
  });
