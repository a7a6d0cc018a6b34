// A trial on paper: what a spreadsheet's cells become, and what is sent.
import { describe, expect, it } from "vitest";
import { Fault, type Trial } from "../src/api/client";
import { bodyOf, columnsOf, filledIn, pasted, readPasted, rowsOf } from "../src/paper";

function trial(changes: object = {}): Trial {
  return {
    measure: { key: "live", label: "Live pests", scale: "count" },
    setup: { design: "complete", beside: ["damage"] },
    looks: [
      { number: 0, day: 0, hours: 0, when: "day 0" },
      { number: 1, day: 7, hours: 0, when: "day 7" },
    ],
    plants: [],
    walk: [],
    ...changes,
  } as unknown as Trial;
}

const days = { rounds: { 1: "2026-04-06", 2: "" }, looks: { 0: "2026-04-06", 1: "2026-04-13" } };

describe("pasted cells", () => {
  it("are read from a spreadsheet and from both kinds of CSV, decimal commas left whole", () => {
    expect(readPasted("P1\t1\t12\r\nP2\t1\t0\r\n")).toEqual([
      ["P1", "1", "12"],
      ["P2", "1", "0"],
    ]);
    expect(readPasted("P1;1;12,5\nP2;1;0")).toEqual([
      ["P1", "1", "12,5"],
      ["P2", "1", "0"],
    ]);
    expect(readPasted("P1,1,12\nP2,1,0")).toEqual([
      ["P1", "1", "12"],
      ["P2", "1", "0"],
    ]);
    expect(readPasted("12,5\n3,5")).toEqual([["12,5"], ["3,5"]]);
    expect(readPasted("12,5")).toEqual([["12,5"]]);
  });

  it("fall in where they are put, make rows as needed, and what has no column is told", () => {
    const found = pasted([["P1", "", ""]], 3, { row: 0, column: 1 }, [
      ["1", "2", "9"],
      ["3", "4", ""],
    ]);
    expect(found).toEqual({
      rows: [
        ["P1", "1", "2"],
        ["", "3", "4"],
      ],
      left: 1,
    });
  });
});

describe("a table with a header", () => {
  it("is filled in by the names of plants and columns, below what is there", () => {
    const columns = columnsOf(trial());
    const rows = [
      ["P2", "1", "Water", "", "", "", ""],
      ["", "", "", "", "", "", ""],
    ];
    const lines: Record<string, string>[] = [
      { "plant": "P1", "remedy": "Soap", "value/0": "12", "damage/1": "1" },
      { "plant": "p2", "value/1": "9,5" },
      { "plant": "P3", "value/0": "4" },
    ];
    expect(filledIn(rows, columns, { headed: true, lines, looks: [], asked: [], left: [] })).toEqual([
      ["P2", "1", "Water", "", "", "9,5", ""],
      ["P1", "", "Soap", "12", "", "", "1"],
      ["P3", "", "", "4", "", "", ""],
    ]);
  });

  it("has a column for a second pest, whose numbers are its own", () => {
    const two = { ...trial({ pest: "aphids" }), setup: { ...trial().setup, also: "spider_mites", beside: ["other" as const] } };
    const columns = columnsOf(two);
    expect(columns.map((one) => one.title).filter((title) => title.startsWith("spider"))).toEqual(["spider mites, before", "spider mites, day 7"]);
    expect(columns[3]?.title).toBe("aphids, before");
    const rows = filledIn([], columns, { headed: true, lines: [{ "plant": "P1", "value/0": "12", "other/0": "7" }], looks: [], asked: [], left: [] });
    const { counts } = bodyOf(two, columns, rows, { rounds: {}, looks: {} }, 3);
    expect(counts?.map((one) => [one.measure, one.value, one.effort])).toEqual([
      ["live", 12, 3],
      ["other", 7, 3],
    ]);
  });

  it("keep both lines where they say different things of one plant", () => {
    const columns = columnsOf(trial());
    const lines: Record<string, string>[] = [
      { "plant": "P1", "remedy": "Soap", "value/0": "12" },
      { "plant": "P1", "remedy": "Oil", "value/0": "9" },
      { "plant": "p1", "remedy": "Soap", "value/1": "3" },
    ];
    expect(filledIn([], columns, { headed: true, lines, looks: [], asked: [], left: [] })).toEqual([
      ["P1", "", "Soap", "12", "", "3", ""],
      ["P1", "", "Oil", "9", "", "", ""],
    ]);
  });
});

describe("the rows of a drawn trial", () => {
  it("are the plants that have a remedy, in the order of the walk", () => {
    const drawn = trial({
      plants: [
        { id: 1, name: "P1", letter: "A" },
        { id: 2, name: "P2", letter: null },
        { id: 3, name: "P3", letter: "B" },
      ],
      walk: [3, 2, 1],
    });
    expect(rowsOf(drawn, columnsOf(drawn)).map((row) => row[0])).toEqual(["P3", "P1"]);
  });
});

describe("what is sent of a table", () => {
  it("has who got what, the days, and no number for an empty cell", () => {
    const columns = columnsOf(trial());
    expect(columns.map((c) => c.title)).toEqual(["Plant", "Block", "Remedy", "Live pests, before", "Damage, before", "Live pests, day 7", "Damage, day 7"]);
    const body = bodyOf(
      trial(),
      columns,
      [
        ["P1", "1", "Soap", "12", "", "0", "1"],
        ["P2", "1", "Water", "9", "", "", ""],
        ["", "", "", "", "", "", ""],
      ],
      days,
      3,
    );
    expect(body.plants).toEqual([
      { name: "P1", block: "1", remedy: "Soap" },
      { name: "P2", block: "1", remedy: "Water" },
    ]);
    expect(body.rounds).toEqual([{ number: 1, on: "2026-04-06" }]);
    expect(body.counts?.map((c) => [c.plant, c.look, c.measure, c.value, c.effort])).toEqual([
      ["P1", 0, "live", 12, 3],
      ["P1", 1, "live", 0, 3],
      ["P1", 1, "damage", 1, 1],
      ["P2", 0, "live", 9, 3],
    ]);
  });

  it("takes shares with what they are out of, and asks no day for a look without numbers", () => {
    const shares = trial({ measure: { key: "dead", label: "Dead", scale: "share" }, setup: { design: "randomised", beside: [] } });
    const columns = columnsOf(shares);
    expect(columns.map((c) => c.kind)).toEqual(["plant", "remedy", "value", "of", "value", "of"]);
    const body = bodyOf(shares, columns, [["P1", "Soap", "5", "20", "", ""]], days, 1);
    expect(body.counts).toEqual([{ plant: "P1", look: 0, measure: "dead", value: 5, of: 20, effort: 1 }]);
    expect(body.looks).toEqual([{ number: 0, on: "2026-04-06" }]);
  });

  it("names the cell that is no number", () => {
    const columns = columnsOf(trial());
    const send = (): unknown => bodyOf(trial(), columns, [["P1", "1", "Soap", "a dozen", "", "", ""]], days, 1);
    expect(send).toThrow(Fault);
    expect(send).toThrow("line 1, Live pests, before: “a dozen” is not a number");
  });

  it("lists the plants of a layout in walking order and sends counts alone", () => {
    const drawn = trial({
      plants: [
        { id: 1, name: "S1", letter: "A" },
        { id: 2, name: "S2", letter: "B" },
      ],
      walk: [2, 1],
    });
    const columns = columnsOf(drawn);
    const rows = rowsOf(drawn, columns);
    expect(rows.map((r) => r[0])).toEqual(["S2", "S1"]);
    rows[0]?.splice(1, 1, "7");
    expect(bodyOf(drawn, columns, rows, days, 1)).toMatchObject({ plants: [], counts: [{ plant: "S2", look: 0, value: 7 }] });
  });
});
