import {
  DataTypes,
  type InferAttributes,
  type InferCreationAttributes,
  Model,
  type Sequelize
} from 'sequelize';

/** A look that the clinic has named. */
export class OwnLookRow extends Model<InferAttributes<OwnLookRow>, InferCreationAttributes<OwnLookRow>> {
  declare clinicId: string;
  declare lookId: string;
  declare name: string;
  /** With the version it was written in. */
  declare body: object;
  declare madeBy: string;
}

export function defineOwnLook(sequelize: Sequelize): void {
  OwnLookRow.init(
    {
      lookId: { type: DataTypes.UUID, primaryKey: true },
      clinicId: { type: DataTypes.UUID, allowNull: false },
      name: { type: DataTypes.TEXT, allowNull: false },
      body: { type: DataTypes.JSONB, allowNull: false },
      madeBy: { type: DataTypes.UUID, allowNull: false }
    },
    { sequelize, tableName: 'own_look' }
  );
}
