import { jest } from '@jest/globals';

// Tests assert what is right and wait as long as it takes; speed is measured by the benchmarks.
jest.setTimeout(600_000);
