// The environment of a test file: Node's own, with the build's server in it. See server-in-tests.mjs.
import { TestEnvironment } from 'jest-environment-node';
import { KEPT, builtParts } from './server-in-tests.mjs';

export default class extends TestEnvironment {
  async setup() {
    await super.setup();
    this.global[KEPT] = await builtParts();
  }
}
