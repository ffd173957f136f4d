import type { PrinterMeasured, PrinterView } from '../../core/print/printer';
import { once } from '../acts/once';
import { writeAudit } from '../audit/write';
import { type Tx, inClinic, within } from '../database/connection';
import { newId } from '../ids';
import { type Caller, demand } from '../people/caller';
import { notFound } from '../problem';
import { PrinterRow } from './printerModel';

const viewOf = ({ printerId, name, acrossMm, downMm }: PrinterRow): PrinterView => ({
  printerId,
  name,
  acrossMm,
  downMm
});

/** The printers whose rulers somebody measured. */
export const printers = (caller: Caller): Promise<PrinterView[]> =>
  inClinic(caller.clinicId, async (tx) =>
    (await PrinterRow.findAll({ order: [['name', 'asc']], ...within(tx) })).map(viewOf)
  );

/** @throws Problem where the clinic has no such printer */
export async function printerOf(tx: Tx, printerId: string): Promise<PrinterView> {
  const row = await PrinterRow.findOne({ where: { printerId }, ...within(tx) });
  if (!row) throw notFound('This printer');
  return viewOf(row);
}

/** Keeps how a printer prints; one of the same name is measured anew. */
export async function keepPrinter(
  caller: Caller,
  key: string,
  measured: PrinterMeasured
): Promise<PrinterView> {
  await demand(caller, 'send', 'printers');
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      await tx.sql('select pg_advisory_xact_lock(hashtextextended($1, 2))', `printers ${tx.clinicId}`);
      const known = await PrinterRow.findOne({ where: { name: measured.name }, ...within(tx) });
      const row = known
        ? await known.update(measured, within(tx))
        : await PrinterRow.create({ clinicId: tx.clinicId, printerId: newId(), ...measured }, within(tx));
      await writeAudit(tx, caller, 'setting changed', row.printerId, { printer: measured.name });
      return viewOf(row);
    })
  );
}

export async function dropPrinter(caller: Caller, key: string, printerId: string): Promise<object> {
  await demand(caller, 'send', 'printers');
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      const { name } = await printerOf(tx, printerId);
      await PrinterRow.destroy({ where: { printerId }, ...within(tx) });
      await writeAudit(tx, caller, 'setting changed', printerId, { printer: `${name}, dropped` });
      return {};
    })
  );
}
