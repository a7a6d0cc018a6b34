// The gardener's units: what is shown, what is kept, and that nothing drifts between the two.
import { afterEach, describe, expect, it } from "vitest";
import { volume } from "../src/mixing";
import { clockFormat, clockWords, hourWords, inUnits, kept, region, shown, strengthWords, toolWords, unitOf } from "../src/units";

afterEach(() => (region.value = "metric"));

describe("units", () => {
  it("are metric unless the yard says otherwise", () => {
    expect(inUnits("below about 27 °C, wind 15 km/h")).toBe("below about 27 °C, wind 15 km/h");
    expect([shown(27.5, "temperature"), kept(27.5, "temperature"), unitOf("wind")]).toEqual(["27.5", 27.5, "km/h"]);
  });

  it("follow a US gardener in sentences", () => {
    region.value = "us";
    expect(inUnits("Spray below 25 to 29 °C, wind 20 km/h, above 15; from 30 cm; 6 mm of rain; -5 °C")).toBe(
      "Spray below 77 to 84 °F, wind 12 mph, above 15; from 12 in; 0.24 in of rain; 23 °F",
    );
    expect(inUnits("10 ml soap in 1 litre")).toBe("10 ml soap in 1 litre"); // recipes stay as they are said
  });

  it("say volumes in fluid ounces and gallons, with the metric beside", () => {
    expect([volume(750), volume(1000)]).toEqual(["750 ml", "1 litre"]);
    region.value = "us";
    expect([volume(750), volume(3785.411784), volume(7570.823568)]).toEqual(["25.4 fl oz (750 ml)", "1 gallon (3.79 litres)", "2 gallons (7.57 litres)"]);
    expect(kept(25.4, "volume", 750)).toBe(750);
  });

  it("say strengths by the gallon, and powders by weight; shares are the same everywhere", () => {
    expect([strengthWords(7.5, "ml/L"), strengthWords(5, "g/L"), strengthWords(10, "% of stock")]).toEqual(["7.5 ml/L", "5 g/L", "10 % of stock"]);
    region.value = "us";
    expect([strengthWords(10, "ml/L"), strengthWords(5, "g/L"), strengthWords(10, "% of stock")]).toEqual(["7.68 tsp/gal", "0.67 oz/gal", "10 % of stock"]);
    expect(inUnits("soap: 10 ml/L; typical is 5 to 20 ml/L, soda 3 g/L")).toBe("soap: 7.7 tsp/gal; typical is 3.8 to 15 tsp/gal, soda 0.4 oz/gal");
    expect(inUnits("about 6 ml/L (likely 4 to over 20 ml/L); oil, 10 ml a litre")).toBe("about 4.6 tsp/gal (likely 3.1 to over 15 tsp/gal); oil, 7.7 tsp/gal");
    expect(kept(7.68, "strength", 10)).toBe(10);
    expect(kept(2, "strength")).toBe(2.6); // 2 teaspoons of 4.93 ml in 3.785 litres
  });

  it("name tools as they are bought", () => {
    const tools = ["10 ml syringe", "teaspoon (5 ml)", "measuring jug (1 litre)"];
    expect(tools.map(toolWords)).toEqual(tools);
    region.value = "us";
    expect(tools.map(toolWords)).toEqual(["10 ml syringe", "teaspoon", "measuring jug (33.8 fl oz)"]);
  });

  it("say the time on the gardener's clock", () => {
    const when = clockFormat({ hour: "2-digit", minute: "2-digit" });
    const told = (): string[] => [
      clockWords(0.25),
      clockWords(12),
      clockWords(16 + 59.6 / 60),
      when.format(new Date(2026, 4, 3, 15, 5)),
      when.format(new Date(2026, 4, 3, 0, 5)),
      hourWords(15).join(""),
    ];
    expect(told()).toEqual(["00:15", "12:00", "17:00", "15:05", "00:05", "15:00"]);
    expect(inUnits("not due before Mon 04 May 2026, 09:30; diluted 10:50")).toBe("not due before Mon 04 May 2026, 09:30; diluted 10:50");
    region.value = "us";
    expect(told()).toEqual(["12:15 am", "12:00 pm", "5:00 pm", "3:05 pm", "12:05 am", "3 pm"]);
    expect(inUnits("not due before Mon 04 May 2026, 09:30; diluted 10:50")).toBe("not due before Mon 04 May 2026, 9:30 am; diluted 10:50");
  });

  it("come back as they were, and keep what is typed", () => {
    region.value = "us";
    for (const value of [0, 27, 12.34, 40, 60, 15]) {
      for (const what of ["temperature", "wind", "length", "rain", "warmer"] as const) {
        expect(kept(Number(shown(value, what)), what, value)).toBe(value);
      }
    }
    expect(kept(81, "temperature", 27)).toBe(27.22);
    expect(kept(13.5, "warmer")).toBe(7.5);
    region.value = "imperial";
    expect([unitOf("wind"), unitOf("temperature")]).toEqual(["mph", "°C"]);
  });
});
