import {
  DataTypes,
  type InferAttributes,
  type InferCreationAttributes,
  Model,
  type Sequelize
} from 'sequelize';
import type { Role } from './roles';

/** Somebody who signs in. */
export class User extends Model<InferAttributes<User>, InferCreationAttributes<User>> {
  declare userId: string;
  declare clinicId: string;
  declare signInName: string;
  declare displayName: string;
  declare role: Role;
  declare passwordHash: string;
}

export function defineUser(sequelize: Sequelize): void {
  User.init(
    {
      userId: { type: DataTypes.UUID, primaryKey: true },
      clinicId: { type: DataTypes.UUID, allowNull: false },
      signInName: { type: DataTypes.TEXT, allowNull: false },
      displayName: { type: DataTypes.TEXT, allowNull: false },
      role: { type: DataTypes.TEXT, allowNull: false },
      passwordHash: { type: DataTypes.TEXT, allowNull: false }
    },
    { sequelize, tableName: 'user_account' }
  );
}
