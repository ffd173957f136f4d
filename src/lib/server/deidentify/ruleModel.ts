import {
  type CreationOptional,
  DataTypes,
  type InferAttributes,
  type InferCreationAttributes,
  Model,
  type Sequelize
} from 'sequelize';

/** How a clinic lets pictures leave without their identity. */
export class LeavingRuleRow extends Model<
  InferAttributes<LeavingRuleRow>,
  InferCreationAttributes<LeavingRuleRow>
> {
  declare clinicId: string;
  declare ruleId: string;
  declare name: string;
  declare version: number;
  declare body: unknown;
  /** Whom its pseudonyms are made for; two rules never share them. */
  declare purpose: string;
  declare position: CreationOptional<number>;
  declare droppedAt: CreationOptional<Date | null>;
}

export function defineLeavingRule(sequelize: Sequelize): void {
  LeavingRuleRow.init(
    {
      ruleId: { type: DataTypes.UUID, primaryKey: true },
      clinicId: { type: DataTypes.UUID, allowNull: false },
      name: { type: DataTypes.TEXT, allowNull: false },
      version: { type: DataTypes.INTEGER, allowNull: false },
      body: { type: DataTypes.JSONB, allowNull: false },
      purpose: { type: DataTypes.TEXT, allowNull: false },
      position: { type: DataTypes.INTEGER, allowNull: false, defaultValue: 0 },
      droppedAt: { type: DataTypes.DATE, allowNull: true }
    },
    { sequelize, tableName: 'leaving_rule' }
  );
}
