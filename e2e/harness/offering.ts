import { type Spool, offer } from '../../standins/devices/spool';

const pause = (ms: number) => new Promise((done) => setTimeout(done, ms));

interface Offering {
  origin: string;
  token: string;
  spool: Spool;
  going: () => boolean;
  onoffer?: () => void;
}

/** Offers what lies on a device's disk, the oldest first, each until it is acknowledged. */
export async function offerForEver({ origin, token, spool, going, onoffer }: Offering): Promise<void> {
  while (going()) {
    const exposure = spool.next();
    if (!exposure) {
      await pause(5);
      continue;
    }
    onoffer?.();
    const { acknowledged } = await offer(origin, token, exposure);
    if (acknowledged) spool.remove(exposure.key);
    else await pause(60);
  }
}
