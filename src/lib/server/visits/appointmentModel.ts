import {
  type CreationOptional,
  DataTypes,
  type InferAttributes,
  type InferCreationAttributes,
  Model,
  type NonAttribute,
  type Sequelize
} from 'sequelize';
import type { Patient } from './patientModel';

/** Who is expected when, in which room; and the visit that was opened for it. */
export class Appointment extends Model<InferAttributes<Appointment>, InferCreationAttributes<Appointment>> {
  declare appointmentId: string;
  declare clinicId: string;
  declare patientId: string;
  declare roomId: string;
  declare startsAt: Date;
  declare minutes: number;
  declare reason: string;
  declare visitId: CreationOptional<string | null>;
  /** Its id in the practice system; null where it was made here. */
  declare practiceId: CreationOptional<string | null>;
  declare patient?: NonAttribute<Patient>;
}

export function defineAppointment(sequelize: Sequelize): void {
  Appointment.init(
    {
      appointmentId: { type: DataTypes.UUID, primaryKey: true },
      clinicId: { type: DataTypes.UUID, allowNull: false },
      patientId: { type: DataTypes.UUID, allowNull: false },
      roomId: { type: DataTypes.UUID, allowNull: false },
      startsAt: { type: DataTypes.DATE, allowNull: false },
      minutes: { type: DataTypes.INTEGER, allowNull: false },
      reason: { type: DataTypes.TEXT, allowNull: false },
      visitId: { type: DataTypes.UUID, allowNull: true },
      practiceId: { type: DataTypes.TEXT, allowNull: true }
    },
    { sequelize, tableName: 'appointment' }
  );
}
