import {
  type CreationOptional,
  DataTypes,
  type InferAttributes,
  type InferCreationAttributes,
  Model,
  type Sequelize
} from 'sequelize';

/** A person or an animal. */
export class Patient extends Model<InferAttributes<Patient>, InferCreationAttributes<Patient>> {
  declare patientId: string;
  declare clinicId: string;
  declare kind: 'person' | 'animal';
  declare familyName: string;
  declare givenName: string;
  /** YYYY-MM-DD. */
  declare birthDate: string | null;
  declare sex: '' | 'F' | 'M' | 'O';
  declare recordNumber: string;
  declare species: string | null;
  declare breed: CreationOptional<string | null>;
  declare nationalNumber: CreationOptional<string>;
  declare owner: string | null;
  declare alert: string | null;
  declare referrerId: CreationOptional<string | null>;
  /** The chart that this one was joined into. */
  declare joinedInto: CreationOptional<string | null>;
}

export function definePatient(sequelize: Sequelize): void {
  Patient.init(
    {
      patientId: { type: DataTypes.UUID, primaryKey: true },
      clinicId: { type: DataTypes.UUID, allowNull: false },
      kind: { type: DataTypes.TEXT, allowNull: false },
      familyName: { type: DataTypes.TEXT, allowNull: false },
      givenName: { type: DataTypes.TEXT, allowNull: false },
      birthDate: { type: DataTypes.DATEONLY, allowNull: true },
      sex: { type: DataTypes.TEXT, allowNull: false },
      recordNumber: { type: DataTypes.TEXT, allowNull: false },
      species: { type: DataTypes.TEXT, allowNull: true },
      breed: { type: DataTypes.TEXT, allowNull: true },
      nationalNumber: { type: DataTypes.TEXT, allowNull: false, defaultValue: '' },
      owner: { type: DataTypes.TEXT, allowNull: true },
      alert: { type: DataTypes.TEXT, allowNull: true },
      referrerId: DataTypes.UUID,
      joinedInto: { type: DataTypes.UUID, allowNull: true }
    },
    { sequelize, tableName: 'patient' }
  );
}
