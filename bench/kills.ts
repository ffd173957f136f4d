import path from 'node:path';
import { survive } from '../e2e/harness/surviving';

const exposures = 200;

/** Exposures from three devices while server, database and devices are killed at random, and what became of them. */
export async function benchKills(folder: string): Promise<void> {
  const { kills, ...account } = await survive(path.join(folder, 'killed'), {
    exposures,
    seed: 200,
    onprogress: (made) => process.stderr.write(`\r  ${made} of ${exposures} exposed `)
  });
  const { exposures: all, lost, doubled, astray, miscounted } = account;
  const verdict = lost + doubled + astray + miscounted === 0 ? 'reached' : 'NOT reached';
  process.stderr.write('\r');
  console.log(
    [
      `Exposures from three devices while everything is killed at random`,
      `  ${all} exposures: ${lost} lost, ${doubled} doubled, ${astray} in a wrong visit, ${miscounted} counted otherwise (none asked: ${verdict})`,
      `  killed: the server ${kills.server} times, the database ${kills.database}, a device ${kills.device}`
    ].join('\n')
  );
}
