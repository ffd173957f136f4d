import {
  DataTypes,
  type InferAttributes,
  type InferCreationAttributes,
  Model,
  type Sequelize
} from 'sequelize';

/** How long a ruler of 100 mm came out on a printer of the clinic. */
export class PrinterRow extends Model<InferAttributes<PrinterRow>, InferCreationAttributes<PrinterRow>> {
  declare clinicId: string;
  declare printerId: string;
  declare name: string;
  declare acrossMm: number;
  declare downMm: number;
}

export function definePrinter(sequelize: Sequelize): void {
  PrinterRow.init(
    {
      printerId: { type: DataTypes.UUID, primaryKey: true },
      clinicId: { type: DataTypes.UUID, allowNull: false },
      name: { type: DataTypes.TEXT, allowNull: false },
      acrossMm: { type: DataTypes.DOUBLE, allowNull: false },
      downMm: { type: DataTypes.DOUBLE, allowNull: false }
    },
    { sequelize, tableName: 'printer' }
  );
}
