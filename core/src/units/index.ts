export { LENGTH_UNITS, type LengthUnit, UnitError, fromPoints, parseLength, printSigned, printValue, splitQuantity, toPoints } from './length';
export { milliemToPoints, parseMilliem, roundMilliem } from './milliem';
export { AUTO_LEADING_FACTOR, type Leading, autoFactorOf, autoLeading, leadingPoints, parseLeading, printLeading, printLeadings } from './leading';
