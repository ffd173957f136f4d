import { z } from 'zod';

/** The parts of FHIR R4 resources (HL7, v4.0.1) that are read here; everything else is let through unread. */
const text = z.string().max(500);
const identifier = z.looseObject({ system: text.optional(), value: text.optional(), use: text.optional() });
const coding = z.looseObject({
  text: text.optional(),
  coding: z.array(z.looseObject({ display: text.optional() })).optional()
});

const extensionValue = z.looseObject({
  url: z.string(),
  valueCodeableConcept: coding.optional(),
  valueString: text.optional()
});
const extension = extensionValue.extend({ extension: z.array(extensionValue).optional() });

export const fhirPatient = z.looseObject({
  resourceType: z.literal('Patient'),
  id: text,
  active: z.boolean().optional(),
  identifier: z.array(identifier).optional(),
  name: z
    .array(
      z.looseObject({
        use: text.optional(),
        text: text.optional(),
        family: text.optional(),
        given: z.array(text).optional()
      })
    )
    .optional(),
  gender: z.enum(['male', 'female', 'other', 'unknown']).optional(),
  birthDate: text.optional(),
  contact: z.array(z.looseObject({ name: z.looseObject({ text: text.optional() }).optional() })).optional(),
  extension: z.array(extension).optional()
});
export type FhirPatient = z.infer<typeof fhirPatient>;

export const fhirAppointment = z.looseObject({
  resourceType: z.literal('Appointment'),
  id: text,
  status: text,
  start: z.iso.datetime({ offset: true }).optional(),
  minutesDuration: z.number().positive().optional(),
  end: z.iso.datetime({ offset: true }).optional(),
  description: text.optional(),
  reasonCode: z.array(coding).optional(),
  participant: z.array(
    z.looseObject({
      actor: z.looseObject({ reference: text.optional(), display: text.optional() }).optional()
    })
  )
});
export type FhirAppointment = z.infer<typeof fhirAppointment>;

export const fhirBundle = z.looseObject({
  resourceType: z.literal('Bundle'),
  link: z.array(z.looseObject({ relation: text, url: z.string().max(2_000) })).optional(),
  entry: z.array(z.looseObject({ resource: z.unknown() })).optional()
});
