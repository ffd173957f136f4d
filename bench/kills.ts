import path from 'node:path';
import { password } from '../demo/clinic';
import { Asking } from '../e2e/harness/asking';
import { throughFaults, visitOfMany } from '../e2e/harness/faultyArchive';
import type { RunningClinic } from '../e2e/harness/running';
import { survive } from '../e2e/harness/surviving';

const exposures = 200;

/** Exposures from three devices while server, database and devices are killed at random, and what became of them. */
export async function benchKills(folder: string): Promise<void> {
  const { kills, ...account } = await survive(path.join(folder, 'killed'), {
    exposures,
    seed: 200,
    onprogress: (made) => process.stderr.write(`\r  ${made} of ${exposures} exposed `)
  });
  const { exposures: all, lost, doubled, astray, miscounted, fallen } = account;
  const verdict = lost + doubled + astray + miscounted + fallen === 0 ? 'reached' : 'NOT reached';
  process.stderr.write('\r');
  console.log(
    [
      `Exposures from three devices while everything is killed at random`,
      `  ${all} exposures: ${lost} lost, ${doubled} doubled, ${astray} in a wrong visit, ${miscounted} counted otherwise, the server ended by itself ${fallen} times (none asked: ${verdict})`,
      `  killed: the server ${kills.server} times, the database ${kills.database}, a device ${kills.device}`
    ].join('\n')
  );
}

const sent = 200;

/** Pictures sent to an archive that fails a third of what it is asked, the worker killed again and again. */
export async function benchFaultyArchive(clinic: RunningClinic): Promise<void> {
  const mara = await Asking.as(clinic, 'mara', password);
  const visitId = await visitOfMany(clinic, mara, sent);
  const { times } = await throughFaults(
    clinic,
    mara,
    visitId,
    (parcelId) => mara.send('POST', `/api/parcels/${parcelId}`, { act: 'try all' }),
    (there) => process.stderr.write(`\r  ${there} of ${sent} arrived `)
  );
  process.stderr.write('\r');
  const [lost, twice] = [sent - times.length, times.filter((count) => count > 1).length];
  console.log(
    [
      'Pictures for an archive that fails a third of what it is asked, in five ways, the worker killed three times',
      `  ${sent} pictures: ${lost} lost, ${twice} there more than once (none asked: ${lost + twice === 0 ? 'reached' : 'NOT reached'})`
    ].join('\n')
  );
}
