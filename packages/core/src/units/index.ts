export { celsiusFromKelvin, fromShownUnit, kelvinFromCelsius, pressureAtAltitude, shownUnits, toShownUnit } from "./convert";
export { type BaseUnit, formatPercent, formatQuantity, formatWindow, unitSymbol } from "./format";
