export { celsiusFromKelvin, fromShownUnit, kelvinFromCelsius, pressureAtAltitude, toShownUnit } from "./convert";
export { type BaseUnit, formatPercent, formatQuantity, formatWindow } from "./format";
