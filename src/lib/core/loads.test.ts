import { execFileSync } from 'node:child_process';
import fs from 'node:fs';
import path from 'node:path';
import { expect, it } from 'vitest';

it('every file of the core loads on its own, without the application around it', () => {
  const files = fs
    .readdirSync('src/lib/core', { recursive: true, encoding: 'utf8' })
    .filter((name) => name.endsWith('.ts') && !name.endsWith('.test.ts'))
    .map((name) => path.resolve('src/lib/core', name));
  expect(files.length).toBeGreaterThan(25);
  const script = files.map((file) => `await import(${JSON.stringify(file)});`).join('\n');
  execFileSync('npx', ['--no-install', 'tsx', '--input-type=module', '-e', script], { stdio: 'pipe' });
});
