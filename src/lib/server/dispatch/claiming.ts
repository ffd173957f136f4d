import { claimDocument, claimSchema, claimTitle } from '../../core/parcel/claim';
import type { Notation } from '../../core/anatomy/teeth';
import { Clinic } from '../clinics/clinicModel';
import { inClinic, within } from '../database/connection';
import { pictureRow, viewsOf } from '../pictures/views';
import { visitHead } from '../visits/visitHead';
import type { Wire } from './carriers/carrier';
import { sendClaim } from './carriers/claims';
import type { Arrived, Claimed } from './claimed';
import { itemLeaving } from './parcelFiles';

/** One picture to a claims office, with what a person has told of it. */
export async function toClaimsOffice(clinicId: string, claimed: Claimed, wire: Wire): Promise<Arrived> {
  const { parcel, items, settings, deliveryId } = claimed;
  const { address } = settings;
  if (address.kind !== 'claims') throw new Error(`no claims office: ${address.kind}`);
  const [item] = items;
  const { files } = await itemLeaving(clinicId, parcel, item);
  const facts = await inClinic(clinicId, async (tx) => {
    const [view] = await viewsOf(tx, [await pictureRow(tx, item.picture_id)], parcel.madeBy);
    const { patient } = await visitHead(tx, view.visitId);
    const clinic = (await Clinic.findByPk(tx.clinicId, within(tx)))!;
    return { view, patient, clinic };
  });
  const { view, patient, clinic } = facts;
  const document = claimDocument(
    {
      id: deliveryId,
      claim: claimSchema.parse(item.told),
      subject: {
        number: patient.recordNumber,
        family: patient.familyName,
        given: patient.givenName,
        born: patient.birthDate
      },
      clinic: clinic.name,
      ...claimTitle(view, clinic.notation as Notation),
      sentAt: parcel.madeAt.toISOString(),
      contentType: files[0].ending === 'png' ? 'image/png' : 'image/jpeg',
      bytes: files[0].bytes
    },
    (bytes) => Buffer.from(bytes).toString('base64')
  );
  const tracking = await sendClaim({ ...address, wire }, deliveryId, document);
  return { sent: null, readBack: false, remark: '', tracking };
}
