import type { Service, ServiceBody } from "@/api/services";

/** A service as its form has it: the rest of its description is JSON that a person edits. */
export interface Written {
  name: string;
  address: string;
  model: string;
  body: string;
  answer: string;
  rest: string;
  secret: string;
  most_a_day: number | null;
  price: string;
  currency: string;
}

type Document = Record<string, unknown>;

/** Returns a description as its form has it. */
export function describedBy({
  address,
  model,
  body,
  answer,
  ...rest
}: Document): Pick<Written, "address" | "model" | "body" | "answer" | "rest"> {
  return {
    address: String(address ?? ""),
    model: String(model ?? ""),
    body: pretty(String(body ?? "")),
    answer: String(answer ?? ""),
    rest: JSON.stringify(rest, null, 2),
  };
}

function pretty(body: string): string {
  try {
    return JSON.stringify(JSON.parse(body), null, 2);
  } catch {
    return body;
  }
}

export function writtenOf(service: Service): Written {
  return {
    name: service.name,
    ...describedBy(service.document),
    secret: "",
    most_a_day: service.most_a_day,
    price: service.price === null ? "" : String(Number(service.price)),
    currency: service.currency,
  };
}

/** Returns why the rest of a description is no JSON; empty where it is. */
export function faultOfRest(rest: string): string {
  try {
    const read: unknown = JSON.parse(rest);
    return typeof read === "object" && read !== null && !Array.isArray(read)
      ? ""
      : "It is no object of JSON.";
  } catch (fault) {
    return fault instanceof Error ? fault.message : String(fault);
  }
}

export function bodyOf(written: Written): ServiceBody {
  return {
    name: written.name,
    document: {
      ...(JSON.parse(written.rest) as Document),
      address: written.address,
      model: written.model,
      body: written.body,
      answer: written.answer,
    },
    secret: written.secret,
    most_a_day: written.most_a_day,
    price: written.price.trim() || null,
    currency: written.price.trim() ? written.currency.trim().toUpperCase() : "",
  };
}
