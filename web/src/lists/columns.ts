import type { Schema } from "../api/client";
import { day } from "../ui/words";

/** A column of the file as it is to be brought in. */
export type ChosenColumn = Schema["SourceColumn"] & { position: number; include: boolean; divide: boolean; settled: boolean };

/** True where somebody has to say how a column's dates or numbers are written. */
export const isOpen = (c: ChosenColumn) => c.include && c.ambiguous && !c.settled && (c.type === "Date" || c.type === "Number");

export const typeNames: Record<Schema["ColumnType"], string> = { Text: "text", Number: "number", Date: "date", YesNo: "yes/no" };

export const roleNames: Record<Schema["Role"], string> = {
  None: "No role",
  Key: "key",
  Title: "title",
  GivenName: "given name",
  FamilyName: "family name",
  FullName: "full name",
  Organization: "organization",
  Street: "street",
  Street2: "second street line",
  Street3: "third street line",
  Unit: "apartment, suite, floor",
  HouseNumber: "house number",
  DoNotMail: "do not mail",
  MayMail: "OK to mail",
  Locality: "locality",
  City: "city",
  Region: "region",
  PostalCode: "postal code",
  Country: "country",
  Email: "email",
  Phone: "phone",
  Language: "language",
  WholeAddress: "full address",
  MiddleName: "middle name",
  Suffix: "name suffix",
  PartnerTitle: "partner’s title",
  PartnerGivenName: "partner’s given name",
  PartnerFamilyName: "partner’s family name",
  PartnerFullName: "partner’s full name",
  PostalCodeAddOn: "ZIP+4 add-on",
  Attention: "attention line",
  District: "district",
  DeliveryPoint: "delivery point",
  OwnSalutation: "personal salutation",
  AddressedTo: "addressed to (household)",
};

/** How a column writes its numbers. */
export const numberForms: Record<Schema["NumberForm"], string> = { Point: "1,250.50", Comma: "1.250,50" };

export const dateOrders: Record<Schema["DateOrder"], string> = {
  YearMonthDay: "2027-03-31",
  MonthDayYear: "3/31/2027",
  DayMonthYear: "31/3/2027",
  DayNumber: "46477, a day number",
};

/** A value as it is read in a table: dates in the organization's form, everything else as it is stored; null for a blank. */
export const cellText = (type: string, value: string | null | undefined) =>
  value && type === "Date" && /^\d{4}-\d\d-\d\d$/.test(value) ? day(value) : (value ?? null);
