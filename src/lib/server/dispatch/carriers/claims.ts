import { claimIdentifier, refusalIn, trackingIn } from '../../../core/parcel/claim';
import { NotDelivered, askOrWait } from './carrier';
import { type WebPeer, askPeer, refusalOf } from './webPeer';

export type ClaimsOffice = Omit<WebPeer, 'who'>;
const fhirJson = 'application/fhir+json';
const who = 'claims office';

const lookAtWire = 'Look at what was said on the wire: perhaps another program answers at this address.';

function read(bytes: Buffer): unknown {
  try {
    return JSON.parse(bytes.toString('utf8'));
  } catch {
    throw new NotDelivered('The claims office’s answer could not be read: it is no JSON.', false, lookAtWire);
  }
}

/** The tracking number of a picture that the office has already; null where it has none (FHIR R4 search). */
async function trackingOf(office: ClaimsOffice, id: string): Promise<string | null> {
  const { system, value } = claimIdentifier(id);
  const { response, bytes } = await askPeer(
    { ...office, who },
    `/DocumentReference?identifier=${encodeURIComponent(`${system}|${value}`)}`,
    { headers: { accept: fhirJson } }
  );
  if (response.status === 404) return null;
  const refused = refusalOf(who, response);
  if (refused) throw refused;
  if (!response.ok)
    throw new NotDelivered(
      `The claims office could not say what it has (${response.status}).`,
      false,
      askOrWait
    );
  return trackingIn(read(bytes));
}

/**
 * Sends a picture for a claim, and gives the office's tracking number. The office is asked first whether it has it, and
 * takes it only where it has not (FHIR R4 conditional create), so that a lost answer makes no second one.
 */
export async function sendClaim(
  office: ClaimsOffice,
  id: string,
  document: Record<string, unknown>
): Promise<string> {
  const known = await trackingOf(office, id);
  if (known) return known;
  const { system, value } = claimIdentifier(id);
  const body = Buffer.from(JSON.stringify(document));
  const { response, bytes } = await askPeer({ ...office, who }, '/DocumentReference', {
    method: 'POST',
    headers: {
      'content-type': fhirJson,
      accept: fhirJson,
      prefer: 'return=representation',
      'if-none-exist': `identifier=${encodeURIComponent(`${system}|${value}`)}`
    },
    parts: [{ type: fhirJson, bytes: body.length }],
    body
  });
  const refused = refusalOf(who, response);
  if (refused) throw refused;
  if (response.status === 413)
    throw new NotDelivered(
      'The claims office says that this picture is too large for it.',
      true,
      'Set JPEG for this destination, or crop the picture, and send it anew.'
    );
  if (
    response.status === 400 ||
    response.status === 409 ||
    response.status === 412 ||
    response.status === 422
  ) {
    const why = refusalIn(read(bytes));
    throw new NotDelivered(
      `The claims office refused this picture: ${why || `it gave no reason (${response.status})`}`,
      true,
      'Put right what it says, and send the picture to it anew.'
    );
  }
  if (!response.ok)
    throw new NotDelivered(`The claims office refused for now (${response.status}).`, false, askOrWait);
  const tracking = trackingIn(read(bytes)) ?? (await trackingOf(office, id));
  if (!tracking)
    throw new NotDelivered(
      'The claims office took the picture and gave no tracking number.',
      false,
      'It is asked for it again by itself; look at what was said on the wire.'
    );
  return tracking;
}

/** Whether an office answers at all (FHIR R4 capabilities). */
export async function claimsEcho(office: ClaimsOffice): Promise<void> {
  const { response } = await askPeer({ ...office, who }, '/metadata', { headers: { accept: fhirJson } });
  const refused = refusalOf(who, response);
  if (refused) throw refused;
  if (!response.ok) throw new NotDelivered(`The claims office answered ${response.status}.`, false);
}
