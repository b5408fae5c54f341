// Jest's global setup of the browser tests: the pages as they are, and what tests of the server need.
import { buildPages } from './pages.mjs';
import cluster from './test-cluster.mjs';

export default async () => {
  buildPages();
  await cluster();
};
