import fs from 'node:fs';
import { z } from 'zod';
import {
  type DestinationKind,
  type DestinationSettings,
  addressWords,
  destinationSettings,
  isArchive,
  isFilmPrinter,
  plainDestination,
  wantsClaims
} from '../../core/parcel/destination';
import { readVersioned } from '../../core/versioned';
import { once } from '../acts/once';
import { writeAudit } from '../audit/write';
import { type Tx, inClinic, within } from '../database/connection';
import { ruleInUse } from '../deidentify/rules';
import { newId } from '../ids';
import { type Caller, demand } from '../people/caller';
import { Problem, notFound } from '../problem';
import { NotDelivered } from './carriers/carrier';
import { claimsEcho } from './carriers/claims';
import { webEcho } from './carriers/dicomWeb';
import { dimseEcho } from './carriers/dimse';
import { askPrinter } from './carriers/film';
import { folderProblem, inSharedRoots, sharedRoots } from './carriers/folder';
import { mailServer } from './carriers/mail';
import { Destination } from './destinationModel';
import { claimsByHand, demandFits, filmsByHand } from './fitting';

/** A destination as whoever sends chooses it: how, and with which rules, but none of its secrets. */
export interface DestinationView {
  destinationId: string;
  name: string;
  kind: DestinationKind;
  where: string;
  settings: Omit<DestinationSettings, 'address'>;
}

/** The same for whoever sets it up. */
export interface DestinationSetUp extends DestinationView {
  address: DestinationSettings['address'];
}

const stored = z.object({ version: z.number().int().positive(), body: z.unknown() });

/** What a destination is set to; one of before, which was a DICOMweb archive and nothing else, by its address. */
export function settingsOf({ settings, url }: Destination): DestinationSettings {
  const read = stored.safeParse(settings);
  return read.success
    ? readVersioned('A destination', destinationSettings, read.data.version, read.data.body)
    : plainDestination({ kind: 'dicomweb', url, token: '' });
}

const viewOf = (row: Destination): DestinationView => {
  const { address, ...settings } = settingsOf(row);
  return {
    destinationId: row.destinationId,
    name: row.name,
    kind: address.kind,
    where: addressWords(address),
    settings
  };
};

const inUse = (tx: Tx): Promise<Destination[]> =>
  Destination.findAll({ where: { droppedAt: null }, order: [['name', 'asc']], ...within(tx) });

/** Where parcels go; films are laid out first, and their printers are told apart. */
export const destinations = (caller: Caller): Promise<DestinationView[]> =>
  inClinic(caller.clinicId, async (tx) => {
    const all = (await inUse(tx)).map(viewOf).filter((each) => !isFilmPrinter(each));
    // What is usual comes first: the archives.
    return [...all.filter(isArchive), ...all.filter((each) => !isArchive(each))];
  });

/** Where parcels go, for whoever sets it up: a token that is there is told as such and not shown. */
export async function destinationsSetUp(caller: Caller): Promise<DestinationSetUp[]> {
  await demand(caller, 'change settings', 'destinations');
  return inClinic(caller.clinicId, async (tx) =>
    (await inUse(tx)).map((row) => {
      const { address } = settingsOf(row);
      return {
        ...viewOf(row),
        address: 'token' in address ? { ...address, token: address.token && kept } : address
      };
    })
  );
}

/** Stands for a token that is kept: given back as it is, the token stays. */
const kept = '•••';

export async function destinationOf(tx: Tx, destinationId: string): Promise<Destination> {
  const row = await Destination.findByPk(destinationId, within(tx));
  if (!row || row.droppedAt) throw notFound('This destination');
  return row;
}

export const destinationWish = z.strictObject({
  destinationId: z.uuid().optional(),
  name: z.string().trim().min(1, 'Give it a name.').max(60),
  settings: destinationSettings.schema
});
const mostDestinations = 60;

/** Sets a destination up, or changes one. What is on its way there goes on as it was packed. */
export async function keepDestination(
  caller: Caller,
  key: string,
  { destinationId, name, settings }: z.infer<typeof destinationWish>
): Promise<{ destinationId: string }> {
  await demand(caller, 'change settings', 'destinations');
  const { address, packing } = settings;
  demandFits(address, packing);
  if (wantsClaims(address) && (settings.identity !== 'identified' || settings.byItself || settings.closes))
    throw claimsByHand();
  if (isFilmPrinter(address) && (settings.identity !== 'identified' || settings.byItself || settings.closes))
    throw filmsByHand();
  if (address.kind === 'folder' && !inSharedRoots(address.folder))
    throw new Problem(
      'not-shared',
      `This folder lies in none that others share with this server${sharedRoots().length > 0 ? `: ${sharedRoots().join(', ')}` : ''}.`,
      'Choose one of those, or ask whoever runs the server to name another.',
      422
    );
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      await ruleInUse(tx, settings.ruleId);
      const known = destinationId ? await destinationOf(tx, destinationId) : null;
      const named = await Destination.findOne({ where: { name, droppedAt: null }, ...within(tx) });
      if (named && named.destinationId !== destinationId)
        throw new Problem(
          'name-taken',
          `There is a destination called ${name} already.`,
          'Give this one another name.',
          409
        );
      if (!known && (await Destination.count(within(tx))) >= mostDestinations)
        throw new Problem(
          'too-many-destinations',
          `The clinic has ${mostDestinations} destinations already.`,
          'Change one of them, or drop one that nobody uses.',
          409
        );
      const old = known ? settingsOf(known).address : null;
      const whole =
        'token' in address && address.token === kept
          ? { ...address, token: old && 'token' in old ? old.token : '' }
          : address;
      const row = {
        name,
        kind: address.kind,
        url: address.kind === 'dicomweb' ? address.url : '',
        settings: { version: destinationSettings.version, body: { ...settings, address: whole } }
      };
      const id = known?.destinationId ?? newId();
      if (known) await known.update(row, within(tx));
      else await Destination.create({ destinationId: id, clinicId: tx.clinicId, ...row }, within(tx));
      await writeAudit(tx, caller, 'setting changed', id, {
        destination: name,
        where: addressWords(address),
        identity: settings.identity
      });
      return { destinationId: id };
    })
  );
}

export async function dropDestination(caller: Caller, key: string, destinationId: string): Promise<object> {
  await demand(caller, 'change settings', 'destinations');
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      const row = await destinationOf(tx, destinationId);
      await row.update({ droppedAt: new Date() }, within(tx));
      await writeAudit(tx, caller, 'setting changed', destinationId, { destination: 'dropped' });
      return {};
    })
  );
}

export interface Tried {
  reached: boolean;
  words: string;
}

/** Whether a destination answers, asked now: C-ECHO, a question to the archive, a look at the folder or the mail server. */
export async function tryDestination(caller: Caller, destinationId: string): Promise<Tried> {
  await demand(caller, 'change settings', 'destinations');
  const { address } = await inClinic(caller.clinicId, async (tx) =>
    settingsOf(await destinationOf(tx, destinationId))
  );
  const wire = () => {};
  try {
    switch (address.kind) {
      case 'dicomweb':
        await webEcho({ ...address, wire });
        return { reached: true, words: 'The archive answers.' };
      case 'claims':
        await claimsEcho({ ...address, wire });
        return { reached: true, words: 'The claims office answers.' };
      case 'dimse':
        await dimseEcho({ ...address, wire });
        return { reached: true, words: 'The archive answers to C-ECHO.' };
      case 'film':
        await askPrinter({ ...address, wire }, address.colour);
        return { reached: true, words: 'The printer answers, and can print.' };
      case 'folder':
        await fs.promises.access(address.folder, fs.constants.W_OK).catch((error: unknown) => {
          throw folderProblem(error);
        });
        return { reached: true, words: 'The folder is there and can be written into.' };
      case 'mail':
        return mailServer().port === 0
          ? { reached: false, words: 'No mail server is set up. Ask whoever runs this server to name one.' }
          : { reached: true, words: `Mail goes by ${mailServer().host}:${mailServer().port}.` };
    }
  } catch (error) {
    if (!(error instanceof NotDelivered)) throw error;
    return { reached: false, words: [error.reason, error.next].filter(Boolean).join(' ') };
  }
}
