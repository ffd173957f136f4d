import type { Sequelize } from 'sequelize';
import { defineClinic } from '../clinics/clinicModel';
import { defineMarker } from '../clinics/markerModel';
import { definePrinter } from '../clinics/printerModel';
import { defineOwnLook } from '../clinics/ownLookModel';
import { defineWrittenGuide } from '../clinics/writtenGuideModel';
import { Room, defineRoom } from '../clinics/roomModel';
import { defineLeavingRule } from '../deidentify/ruleModel';
import { Device, defineDevice } from '../devices/deviceModel';
import { defineDestination } from '../dispatch/destinationModel';
import { defineColleague } from '../letters/colleagueModel';
import { defineTemplate } from '../letters/templateModel';
import { Recent, defineRecent } from '../people/recentModel';
import { defineUser } from '../people/userModel';
import { definePictureLink } from '../pictures/linkModel';
import { definePatternRow } from '../trays/patternModel';
import { defineRouteRow } from '../trays/routeModel';
import { Appointment, defineAppointment } from '../visits/appointmentModel';
import { Patient, definePatient } from '../visits/patientModel';
import { Visit, defineVisit } from '../visits/visitModel';

const define = [
  defineClinic,
  defineMarker,
  definePrinter,
  defineOwnLook,
  defineWrittenGuide,
  defineRoom,
  defineUser,
  definePatient,
  defineVisit,
  defineAppointment,
  defineRecent,
  definePatternRow,
  defineRouteRow,
  defineDevice,
  definePictureLink,
  defineDestination,
  defineLeavingRule,
  defineColleague,
  defineTemplate
];

/** What people edit, as models of one connection, and how they hang together. */
export function defineModels(sequelize: Sequelize): void {
  for (const each of define) each(sequelize);
  Visit.belongsTo(Patient, { as: 'patient', foreignKey: 'patientId' });
  Visit.belongsTo(Room, { as: 'room', foreignKey: 'roomId' });
  Patient.hasMany(Visit, { as: 'visits', foreignKey: 'patientId' });
  Appointment.belongsTo(Patient, { as: 'patient', foreignKey: 'patientId' });
  Appointment.belongsTo(Room, { as: 'room', foreignKey: 'roomId' });
  Appointment.belongsTo(Visit, { as: 'visit', foreignKey: 'visitId' });
  Recent.belongsTo(Patient, { as: 'patient', foreignKey: 'patientId' });
  Device.belongsTo(Room, { as: 'room', foreignKey: 'roomId' });
  Room.hasMany(Device, { as: 'devices', foreignKey: 'roomId' });
}
