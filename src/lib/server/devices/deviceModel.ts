import {
  type CreationOptional,
  DataTypes,
  type InferAttributes,
  type InferCreationAttributes,
  Model,
  type Sequelize
} from 'sequelize';
import type { Fineness } from '../../core/devices/deviceKind';
import type { LampState } from '../../core/visit/visitView';

/** A device at a chair. */
export class Device extends Model<InferAttributes<Device>, InferCreationAttributes<Device>> {
  declare deviceId: string;
  declare clinicId: string;
  declare roomId: string;
  declare name: string;
  declare kind: string;
  declare tokenHash: Buffer;
  declare lamp: CreationOptional<LampState>;
  declare lampWords: CreationOptional<string>;
  declare lampAt: CreationOptional<Date>;
  declare armingId: CreationOptional<string | null>;
  declare readySeconds: CreationOptional<number>;
  declare finenesses: CreationOptional<Fineness[]>;
  declare fineness: CreationOptional<string | null>;
  /** One of the clinic's own looks that its pictures open with. */
  declare opensWith: CreationOptional<string | null>;
  /** Since when it is not let in any more. */
  declare retiredAt: CreationOptional<Date | null>;
}

export function defineDevice(sequelize: Sequelize): void {
  Device.init(
    {
      deviceId: { type: DataTypes.UUID, primaryKey: true },
      clinicId: { type: DataTypes.UUID, allowNull: false },
      roomId: { type: DataTypes.UUID, allowNull: false },
      name: { type: DataTypes.TEXT, allowNull: false },
      kind: { type: DataTypes.TEXT, allowNull: false },
      tokenHash: { type: DataTypes.BLOB, allowNull: false },
      lamp: { type: DataTypes.TEXT, allowNull: false, defaultValue: 'absent' },
      lampWords: { type: DataTypes.TEXT, allowNull: false, defaultValue: '' },
      lampAt: { type: DataTypes.DATE, allowNull: false, defaultValue: DataTypes.NOW },
      armingId: { type: DataTypes.UUID, allowNull: true },
      finenesses: { type: DataTypes.JSONB, allowNull: false, defaultValue: [] },
      fineness: { type: DataTypes.TEXT, allowNull: true },
      opensWith: { type: DataTypes.UUID, allowNull: true },
      retiredAt: { type: DataTypes.DATE, allowNull: true },
      readySeconds: { type: DataTypes.INTEGER, allowNull: false, defaultValue: 120 }
    },
    { sequelize, tableName: 'device' }
  );
}
