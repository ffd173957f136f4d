import {
  DataTypes,
  type InferAttributes,
  type InferCreationAttributes,
  Model,
  type Sequelize
} from 'sequelize';

/** Where parcels can go: an archive that speaks DICOMweb. */
export class Destination extends Model<InferAttributes<Destination>, InferCreationAttributes<Destination>> {
  declare destinationId: string;
  declare clinicId: string;
  declare name: string;
  declare url: string;
}

export function defineDestination(sequelize: Sequelize): void {
  Destination.init(
    {
      destinationId: { type: DataTypes.UUID, primaryKey: true },
      clinicId: { type: DataTypes.UUID, allowNull: false },
      name: { type: DataTypes.TEXT, allowNull: false },
      url: { type: DataTypes.TEXT, allowNull: false }
    },
    { sequelize, tableName: 'destination' }
  );
}
