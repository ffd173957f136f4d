import { json } from '@sveltejs/kit';
import { beforeClinic } from '$lib/server/database/connection';
import { Problem } from '$lib/server/problem';

export async function GET() {
  try {
    await beforeClinic('select 1 as one');
    return json({ records: 'here' });
  } catch (problem) {
    return json(
      { records: 'away', sentence: problem instanceof Problem ? problem.sentence : '' },
      { status: 503 }
    );
  }
}
