import { DataTypes, type ModelAttributeColumnOptions } from 'sequelize';

/** Columns as migrations make them: what is written here is never changed, since tables were made by it. */
export const id = { type: DataTypes.INTEGER, autoIncrement: true, primaryKey: true },
  text = { type: DataTypes.TEXT, allowNull: false },
  whole = { type: DataTypes.INTEGER, allowNull: false },
  real = { type: DataTypes.DOUBLE, allowNull: false },
  json = { type: DataTypes.JSON, allowNull: false },
  createdAt = { type: DataTypes.DATE, allowNull: false };
/** A row that goes with one of another table. */
export const belongsTo = (model: string): ModelAttributeColumnOptions => ({
  ...whole,
  references: { model, key: 'id' },
  onDelete: 'CASCADE',
});
