export { celsiusFromKelvin, fromShownUnit, kelvinFromCelsius, pressureAtAltitude, toShownUnit } from "./convert";
export { type BaseUnit, formatPercent, formatQuantity, formatWindow, unitSymbol } from "./format";
