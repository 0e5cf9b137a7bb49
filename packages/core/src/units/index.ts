export { celsiusFromKelvin, kelvinFromCelsius, pressureAtAltitude } from "./convert";
export { type BaseUnit, formatPercent, formatQuantity, formatWindow } from "./format";
