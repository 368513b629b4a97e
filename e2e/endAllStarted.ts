import { endAllStarted } from './startShelf';

// A test that fails half-way leaves its shelf running, and its pipes keep the whole run from ending.
afterAll(endAllStarted);
