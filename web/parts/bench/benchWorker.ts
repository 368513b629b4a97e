import { expose } from 'comlink';
import { compareAll } from './compareAll';

/** Compares layouts off the page's own thread: typing never waits for it. */
const bench = { compareAll };
export type BenchWorker = typeof bench;

expose(bench);
