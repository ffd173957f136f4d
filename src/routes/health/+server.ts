import { json } from '@sveltejs/kit';
import { stillLanded } from '$lib/server/devices/exposures';
import { Problem } from '$lib/server/problem';

/** Whether the records can be reached, and how many originals still lie in files beside them. */
export async function GET() {
  try {
    return json({ records: 'here', landed: await stillLanded() });
  } catch (problem) {
    return json(
      { records: 'unreachable', sentence: problem instanceof Problem ? problem.sentence : '' },
      { status: 503 }
    );
  }
}
