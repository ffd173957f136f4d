import { z } from 'zod';
import { type LayerStep, standingLayers, toBringBack, toTakeBack } from '../../core/picture/layerLog';
import { type FileSpacing, scaleFromFile } from '../../core/calibration/scale';
import { readableLayers } from '../../core/picture/pictureLayers';
import type { ScaleGiven } from '../../core/picture/layers/scale/scale';
import { isLayerName, layerKindOf } from '../../core/picture/layers/all';
import { readVersioned } from '../../core/versioned';
import type { PictureView } from '../../core/picture/pictureView';
import { once } from '../acts/once';
import { noteLook } from '../audit/looks';
import { writeAudit } from '../audit/write';
import { type Tx, inClinic } from '../database/connection';
import { announce } from '../news/announce';
import { type Caller, demand } from '../people/caller';
import { readOrigin } from './origin';
import { type NewStep, type PictureRow, appendSteps, holdLog, putTaken, stepsOf } from './queries';
import { fileByRules } from './categories';
import { noteTold } from './told';
import { pictureRow, viewOf } from './views';

const item = z.string().regex(/^[\w-]{8,60}$/);

/** One layer's new state (null takes it off). What is kept is what the kind's schema lets through. */
const change = z
  .strictObject({
    kind: z.string().refine(isLayerName, 'nothing on a picture is called so'),
    item: item.nullable(),
    body: z.unknown(),
    /** What it was made of, as the page saw it: what somebody else has changed since is kept too where it can be. */
    from: z.unknown().optional()
  })
  .transform((asked, context) => {
    const kind = layerKindOf(asked.kind);
    if (kind.many !== (asked.item !== null)) {
      context.addIssue({
        code: 'custom',
        message: `${kind.kind} ${kind.many ? 'needs an id' : 'has no id'}`
      });
      return z.NEVER;
    }
    if (asked.body === null || asked.body === undefined)
      return { ...asked, body: null, version: kind.version };
    const read = kind.schema.safeParse(asked.body);
    if (read.success) return { ...asked, body: read.data, version: kind.version };
    context.addIssue({ code: 'custom', message: `${kind.kind}: ${read.error.issues[0].message}` });
    return z.NEVER;
  });

/** One act on a picture: one change, or several that are taken back together. */
export const actWish = z.strictObject({ changes: z.array(change).min(1).max(200) });
export type ActWish = z.infer<typeof actWish>;

interface Done {
  /** The picture's newest step afterwards. */
  seq: number;
}

async function append(
  tx: Tx,
  caller: Caller,
  pictureId: string,
  steps: readonly NewStep[],
  what: 'changed' | 'taken back' | 'brought back'
): Promise<Done> {
  const row = await pictureRow(tx, pictureId);
  const seq = await appendSteps(tx, pictureId, steps);
  if (await noteTold(tx, pictureId, steps)) await fileByRules(tx, pictureId);
  if (steps.some(({ kind }) => kind === 'taken')) await noteTaken(tx, pictureId);
  await announce(tx, { topic: 'picture', visitId: row.visit_id, pictureId, view: null });
  await writeAudit(tx, caller, 'picture changed', pictureId, {
    patientId: row.patient_id,
    layers: [...new Set(steps.map((step) => step.kind))].join(' '),
    what
  });
  return { seq };
}

/** The records sort pictures by when they were taken, so they are told when a person puts that right, or takes it back. */
async function noteTaken(tx: Tx, pictureId: string): Promise<void> {
  const log = (await stepsOf(tx, [pictureId])).get(pictureId) ?? [];
  await putTaken(tx, pictureId, readableLayers(log).layers.taken?.at ?? null);
}

/** The shape of a picture's pixels is known here; what a page makes of it does not count. */
function withOwnAspect(body: unknown, row: PictureRow): unknown {
  if (body === null) return null;
  const origin = readOrigin(row.facts);
  const { scale } = scaleFromFile(origin as FileSpacing);
  const aspect = scale ? scale.mmPerPixelY / scale.mmPerPixelX : (origin.pixelAspect ?? 1);
  return { ...(body as ScaleGiven), aspect };
}

/** A change together with what somebody else has made of the same thing since the page saw it. */
function withOthers(
  { kind, item: of, body, from }: ActWish['changes'][number],
  standing: readonly LayerStep[]
) {
  const { joined, schema } = layerKindOf(kind);
  const kept = standing.find((each) => each.kind === kind && each.item === of);
  const before = schema.safeParse(from);
  if (!joined || body === null || !kept || !before.success) return body;
  return joined({
    from: before.data,
    kept: readVersioned(kind, layerKindOf(kind), kept.version, kept.body),
    now: body
  });
}

/** Keeps one act that a person did, once for its key. */
export async function keepAct(caller: Caller, pictureId: string, key: string, wish: ActWish): Promise<Done> {
  await demand(caller, 'change pictures', pictureId);
  for (const { kind } of wish.changes) {
    const { right } = layerKindOf(kind);
    if (right) await demand(caller, right, pictureId);
  }
  return inClinic(caller.clinicId, async (tx) => {
    const row = await pictureRow(tx, pictureId);
    return once(tx, caller.userId, key, async () => {
      await holdLog(tx, pictureId);
      const log = wish.changes.some(({ from }) => from) ? await stepsOf(tx, [pictureId]) : null;
      const standing = standingLayers(log?.get(pictureId) ?? []);
      const steps = wish.changes.map(({ from, ...each }): NewStep => ({
        ...each,
        body: each.kind === 'scale' ? withOwnAspect(each.body, row) : withOthers({ ...each, from }, standing),
        act: key,
        by: caller.userId,
        undoes: null
      }));
      return append(tx, caller, pictureId, steps, 'changed');
    });
  });
}

async function undo(
  caller: Caller,
  pictureId: string,
  key: string,
  what: 'taken back' | 'brought back',
  targetsIn: (steps: readonly LayerStep[], by: string) => LayerStep[]
): Promise<Done> {
  await demand(caller, 'change pictures', pictureId);
  return inClinic(caller.clinicId, async (tx) => {
    await pictureRow(tx, pictureId);
    return once(tx, caller.userId, key, async () => {
      await holdLog(tx, pictureId);
      const log = (await stepsOf(tx, [pictureId])).get(pictureId) ?? [];
      const targets = targetsIn(log, caller.userId);
      if (targets.length === 0) return { seq: log.at(-1)?.seq ?? 0 };
      const steps = targets.map(({ seq, kind, item: of, version }): NewStep => ({
        act: key,
        by: caller.userId,
        kind,
        item: of,
        version,
        body: null,
        undoes: seq
      }));
      return append(tx, caller, pictureId, steps, what);
    });
  });
}

/** Takes back the newest own act that stands; others' stay as they are. */
export const takeBack = (caller: Caller, pictureId: string, key: string): Promise<Done> =>
  undo(caller, pictureId, key, 'taken back', toTakeBack);

/** Brings back what was taken back last, as long as nothing new was made since. */
export const bringBack = (caller: Caller, pictureId: string, key: string): Promise<Done> =>
  undo(caller, pictureId, key, 'brought back', toBringBack);

/** A picture as its pages see it. */
export async function pictureSeen(caller: Caller, pictureId: string): Promise<PictureView> {
  await demand(caller, 'view charts', pictureId);
  return inClinic(caller.clinicId, (tx) => viewOf(tx, pictureId, caller.userId));
}

/** A picture of the caller's clinic. @throws Problem when there is none */
export const inChart = (caller: Caller, pictureId: string): Promise<PictureRow> =>
  inClinic(caller.clinicId, (tx) => pictureRow(tx, pictureId));

/** The same for looking at it, which the audit is told. */
export async function seenBy(caller: Caller, pictureId: string): Promise<PictureRow> {
  const row = await inChart(caller, pictureId);
  noteLook(caller, 'picture viewed', pictureId, { patientId: row.patient_id });
  return row;
}
