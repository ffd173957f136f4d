/**
 * How Node is asked to run the web process. Bodies lie outside the heap, and V8 clears all of a small heap whenever as much
 * again lies there: once an exposure, for longer than taking it in. So it begins as if its heap were this large.
 */
export const webServer = ['--initial-old-space-size=256', '--min-semi-space-size=16', 'build/index.js'];
