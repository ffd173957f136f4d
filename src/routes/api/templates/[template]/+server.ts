import { z } from 'zod';
import { templateFile } from '$core/letter/exported';
import { answered, keyOf, signedIn, understood, wishOf } from '$lib/server/http/answer';
import { retireTemplate, template, templateVersion } from '$lib/server/letters/templates';
import type { RequestHandler } from './$types';

const asked = z.object({
  version: z.coerce.number().int().positive().optional(),
  file: z.literal('1').optional()
});

/** A template as it is now, as an earlier version had it, or as a file. */
export const GET: RequestHandler = ({ locals, params, url }) =>
  answered(async () => {
    const caller = signedIn(locals);
    const { version, file } = understood(asked, Object.fromEntries(url.searchParams));
    if (version) return { body: await templateVersion(caller, params.template, version) };
    const found = await template(caller, params.template);
    if (!file) return found;
    const name = encodeURIComponent(`${found.name}.json`);
    return new Response(templateFile(found.name, found.body), {
      headers: {
        'content-type': 'application/json',
        'content-disposition': `attachment; filename*=UTF-8''${name}`
      }
    });
  });

const wish = z.strictObject({ retired: z.boolean() });
export const POST: RequestHandler = ({ locals, params, request }) =>
  answered(async () => {
    const { retired } = await wishOf(request, wish);
    return retireTemplate(signedIn(locals), keyOf(request), params.template, retired);
  });
