import { type CreationOptional, DataTypes } from "sequelize";

// Kinds of columns. Each is made again for each column: Sequelize writes the column's name into the
// object that it is given.
export const text = () => ({ type: DataTypes.TEXT, allowNull: false });
export const optionalText = () => ({ type: DataTypes.TEXT, allowNull: true });
export const integer = () => ({ type: DataTypes.INTEGER, allowNull: false });
export const optionalInteger = () => ({ type: DataTypes.INTEGER, allowNull: true });
export const double = () => ({ type: DataTypes.DOUBLE, allowNull: false });
export const optionalDouble = () => ({ type: DataTypes.DOUBLE, allowNull: true });
export const truth = () => ({ type: DataTypes.BOOLEAN, allowNull: false });
export const date = () => ({ type: DataTypes.DATE, allowNull: false });
export const optionalDate = () => ({ type: DataTypes.DATE, allowNull: true });
export const blob = () => ({ type: DataTypes.BLOB, allowNull: false });

/** The columns of every table of jobs (store/job-table.ts). */
export const jobColumns = () => ({
  id: { ...text(), primaryKey: true },
  state: text(),
  step: { ...text(), defaultValue: "Waiting" },
  progress: { ...double(), defaultValue: 0 },
  error: optionalText(),
  tries: { ...integer(), defaultValue: 0 },
  position: { ...double(), defaultValue: 0 },
  leasedUntilMs: optionalInteger(),
  createdAt: date(),
});

export interface JobFields {
  id: string;
  state: string;
  step: CreationOptional<string>;
  progress: CreationOptional<number>;
  error: string | null;
  /** How often it was begun and neither ended nor put back. */
  tries: CreationOptional<number>;
  /** Jobs run in this order, those of the same place in the order in which they were asked for. */
  position: CreationOptional<number>;
  /** Until when whoever runs it has it, in milliseconds since 1970; null: nobody runs it. */
  leasedUntilMs: CreationOptional<number | null>;
  createdAt: CreationOptional<Date>;
}

/** What all tables have in common: names with underscores. */
export const TABLE = { underscored: true } as const;
