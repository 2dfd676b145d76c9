import { randomUUID } from "node:crypto";
import type { SavedTemplate } from "@humming-tide/contract";
import { HummingTideError } from "@humming-tide/core";
import { type ShowTemplate, templateSchema } from "@humming-tide/core/show";
import { asStorageError } from "../storage-errors.ts";
import { TemplateRow } from "./database.ts";

/** Styles and rules by name; the same name again takes the place of the old one. */
export const templateStore = {
  async list(): Promise<SavedTemplate[]> {
    return (await TemplateRow.findAll({ order: [["name", "ASC"]] })).map(toTemplate);
  },

  /** Throws `template-unknown`. */
  async get(id: string): Promise<SavedTemplate> {
    const row = await TemplateRow.findByPk(id);
    if (!row) throw new HummingTideError("template-unknown", "This template is not there any more.");
    return toTemplate(row);
  },

  async put(name: string, template: ShowTemplate): Promise<SavedTemplate> {
    const text = JSON.stringify(template);
    try {
      const known = await TemplateRow.findOne({ where: { name } });
      if (known) return toTemplate(await known.update({ template: text }));
      return toTemplate(await TemplateRow.create({ id: randomUUID(), name, template: text }));
    } catch (error) {
      throw asStorageError(error, "the template could not be saved");
    }
  },

  async remove(id: string): Promise<void> {
    await TemplateRow.destroy({ where: { id } });
  },
};

const toTemplate = (row: TemplateRow): SavedTemplate => ({
  id: row.id,
  name: row.name,
  template: templateSchema.parse(JSON.parse(row.template)),
});
