import { password } from '../demo/clinic';
import { Asking } from '../e2e/harness/asking';
import type { RunningClinic } from '../e2e/harness/running';
import { type Row, median, times } from './report';

const many = 200_000;
const few = 200;
const runs = 25;

/** Made-up names of syllables: as in a register, some are borne by thousands, most by a few. */
const named = (count: number, from: number) => `
  with s as (select array['mar','ro','ka','len','vi','sun','thor','bel','dun','hol','ost','gri','wen','pel','sk','or','an','ti','fen','lu'] as s),
    n as (select n, s, (random() ^ 2 * 20)::int % 20 as a, (random() * 20)::int % 20 as b, (random() * 20)::int % 20 as c,
            (random() * 20)::int % 20 as d from s, generate_series(${from}, ${from + count - 1}) n)
  insert into patient (patient_id, clinic_id, kind, family_name, given_name, birth_date, sex, record_number)
  select gen_random_uuid(), (select clinic_id from user_account where sign_in_name = 'orsin'), 'person',
    initcap(s[a+1] || s[b+1] || s[c+1]), initcap(s[d+1] || s[a+1]), date '1930-01-01' + (random() * 33000)::int, '', 'BN-' || n from n`;

const asked = ['marrow', 'kalen thor', 'bn-150', 'ost 12.3.1961', 'liz dunhol', 'vi', 'sunbelgri'];

/** How long a search takes over the network, with a small register and with a large one. */
export async function benchSearch(clinic: RunningClinic): Promise<Row[]> {
  const orsin = await Asking.as(clinic, 'orsin', password);
  const measured = async () => {
    const medians = [];
    for (const words of asked) {
      const all = await times(runs, () => orsin.get(`/api/patients?words=${encodeURIComponent(words)}`));
      medians.push(median(all.slice(3)));
    }
    return medians;
  };
  await clinic.rows(named(few, 1));
  await clinic.rows('analyze patient');
  const small = await measured();
  await clinic.rows(named(many, few + 1));
  await clinic.rows('vacuum analyze patient');
  const large = await measured();
  const worst = large.map((ms, i) => ms / small[i]);
  const at = worst.indexOf(Math.max(...worst));
  // Nothing may grow faster than the logarithm of how many there are.
  const limit = Math.log2(many) / Math.log2(few);
  return [
    {
      name: `Finding a patient among ${many}`,
      oursMs: median(large),
      reference: `among ${few}`,
      referenceMs: median(small),
      limit,
      note: `the slowest against itself: “${asked[at]}” ${large[at].toFixed(1)} ms, ratio ${worst[at].toFixed(1)}`
    }
  ];
}
