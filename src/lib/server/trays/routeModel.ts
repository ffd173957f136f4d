import {
  type CreationOptional,
  DataTypes,
  type InferAttributes,
  type InferCreationAttributes,
  Model,
  type Sequelize
} from 'sequelize';

/** One version of a route through a pattern: everybody's, or one operator's own. */
export class RouteRow extends Model<InferAttributes<RouteRow>, InferCreationAttributes<RouteRow>> {
  declare clinicId: string;
  declare routeId: string;
  declare version: number;
  declare patternId: string;
  declare patternVersion: number;
  declare name: string;
  declare slotOrder: unknown;
  declare userId: CreationOptional<string | null>;
}

export function defineRouteRow(sequelize: Sequelize): void {
  RouteRow.init(
    {
      clinicId: { type: DataTypes.UUID, primaryKey: true },
      routeId: { type: DataTypes.UUID, primaryKey: true },
      version: { type: DataTypes.INTEGER, primaryKey: true },
      patternId: { type: DataTypes.UUID, allowNull: false },
      patternVersion: { type: DataTypes.INTEGER, allowNull: false },
      name: { type: DataTypes.TEXT, allowNull: false },
      slotOrder: { type: DataTypes.JSONB, allowNull: false },
      userId: { type: DataTypes.UUID, allowNull: true }
    },
    { sequelize, tableName: 'route' }
  );
}
