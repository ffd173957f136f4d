import type { EdgeKeeping } from '../filters/edgeKeeping';
import type { LocalContrast } from '../filters/localContrast';
import type { WindowFunction } from '../filters/tables';
import type { Unsharp } from '../filters/unsharp';
import type { Look } from '../look';

/** One adjustment. Until a `window`, `table` or `equalise` step values are the original's; after it they are 0 to 1. */
export type LookStep =
  | { kind: 'window'; center: number; width: number; by: WindowFunction }
  | { kind: 'table'; first: number; entries: number[]; top: number }
  | { kind: 'gamma'; gamma: number }
  | { kind: 'invert' }
  | { kind: 'equalise' }
  | ({ kind: 'local contrast' } & LocalContrast)
  | ({ kind: 'unsharp' } & Unsharp)
  | { kind: 'smooth'; sigmaPx: number }
  | { kind: 'median'; radiusPx: 1 | 2 }
  | ({ kind: 'keep edges' } & EdgeKeeping);

/**
 * A look as an ordered list of steps. What a version's steps do to a picture never changes: the same look gives the
 * same pixels for ever, in the browser and on the server.
 */
export interface LookSteps {
  version: 2;
  steps: LookStep[];
}

/** The first version: one linear window and perhaps an inversion. */
export function fromFirstVersion(look: Look): LookSteps {
  const { center, width } = look.window;
  return {
    version: 2,
    steps: [
      { kind: 'window', center, width, by: 'linear' },
      ...(look.inverted ? [{ kind: 'invert' } as const] : [])
    ]
  };
}
