import { claimDocument, claimSchema } from '../../core/parcel/claim';
import { Clinic } from '../clinics/clinicModel';
import { inClinic, within } from '../database/connection';
import { pictureRow } from '../pictures/views';
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
  const { files, about } = await itemLeaving(clinicId, parcel, item);
  const { patient, clinic } = await inClinic(clinicId, async (tx) => ({
    patient: (await visitHead(tx, (await pictureRow(tx, item.picture_id)).visit_id)).patient,
    clinic: (await Clinic.findByPk(tx.clinicId, within(tx)))!
  }));
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
      title: about.what,
      place: about.place,
      sentAt: parcel.madeAt.toISOString(),
      contentType: files[0].ending === 'png' ? 'image/png' : 'image/jpeg',
      bytes: files[0].bytes
    },
    (bytes) => Buffer.from(bytes).toString('base64')
  );
  const tracking = await sendClaim({ ...address, wire }, deliveryId, document);
  return { sent: null, readBack: false, remark: '', tracking };
}
