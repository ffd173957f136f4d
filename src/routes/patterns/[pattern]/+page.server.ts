import { z } from 'zod';
import { trades } from '$core/tray/pattern';
import { loaded, signedIn } from '$lib/server/http/answer';
import { notFound } from '$lib/server/problem';
import { allPatterns, slotsOfTray } from '$lib/server/trays/ownPatterns';
import type { PageServerLoad } from './$types';

/** A pattern to look at or change; `new` begins one, from nothing or from another. */
export const load: PageServerLoad = ({ locals, params, url }) =>
  loaded(async () => {
    const all = await allPatterns(signedIn(locals));
    const isNew = params.pattern === 'new';
    const id = isNew ? url.searchParams.get('from') : params.pattern;
    const entry = all.find(({ pattern }) => pattern.ref.id === id) ?? null;
    if (!entry && (!isNew || id !== null)) throw notFound('This pattern');
    const trayId = url.searchParams.get('tray');
    const ofTray = isNew && trayId ? await slotsOfTray(signedIn(locals), trayId) : null;
    const trade = z.enum(trades).catch('teeth').parse(url.searchParams.get('trade'));
    return { entry, isNew, ofTray, trade: entry?.pattern.trade ?? ofTray?.trade ?? trade };
  });
