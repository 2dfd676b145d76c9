import { randomUUID } from "node:crypto";
import type { SavedTemplate } from "@humming-tide/contract";
import { type ShowTemplate, templateSchema } from "@humming-tide/core/show";
import { asStorageError } from "../storage-errors.ts";
import type { StudioDatabase } from "./database.ts";
import { storeError } from "./store-errors.ts";
import type { TemplateRow } from "./tables/show-tables.ts";

/** Styles and rules by name; the same name again takes the place of the old one. */
export class TemplateStore {
  readonly #database: StudioDatabase;

  constructor(database: StudioDatabase) {
    this.#database = database;
  }

  async list(): Promise<SavedTemplate[]> {
    return (await this.#database.templates.findAll({ order: [["name", "ASC"]] })).map(toTemplate);
  }

  /** Throws `template-unknown`. */
  async get(id: string): Promise<SavedTemplate> {
    const row = await this.#database.templates.findByPk(id);
    if (!row) throw storeError("template-unknown");
    return toTemplate(row);
  }

  async put(name: string, template: ShowTemplate): Promise<SavedTemplate> {
    const text = JSON.stringify(template);
    try {
      const known = await this.#database.templates.findOne({ where: { name } });
      if (known) return toTemplate(await known.update({ template: text }));
      return toTemplate(await this.#database.templates.create({ id: randomUUID(), name, template: text }));
    } catch (error) {
      throw asStorageError(error, "the template could not be saved");
    }
  }

  async remove(id: string): Promise<void> {
    await this.#database.templates.destroy({ where: { id } });
  }
}

const toTemplate = (row: TemplateRow): SavedTemplate => ({
  id: row.id,
  name: row.name,
  template: templateSchema.parse(JSON.parse(row.template)),
});
