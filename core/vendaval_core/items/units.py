"""Units that convert into each other, by their exact definitions.

Metre, minute and degree as in the SI Brochure (BIPM, 9th edition, tables 8 and 9); nautical mile
1852 m and knot one of them an hour (International Hydrographic Conference 1929, from memory).
Cable a tenth of a nautical mile: common practice, no published source.
"""

from __future__ import annotations

import re

NAMES = {
    "m": ("m", "metre", "metres", "meter", "meters", "mtr", "mtrs"),
    "cm": ("cm", "centimetre", "centimetres", "centimeter", "centimeters"),
    "mm": ("mm", "millimetre", "millimetres", "millimeter", "millimeters"),
    "g": ("g", "gr", "gram", "grams", "gramme", "grammes"),
    "kg": ("kg", "kilo", "kilos", "kilogram", "kilograms", "kilogramme", "kilogrammes"),
    "l": ("l", "ltr", "ltrs", "litre", "litres", "liter", "liters"),
    "ml": ("ml", "millilitre", "millilitres", "milliliter", "milliliters"),
    "km": ("km", "kilometre", "kilometres", "kilometer", "kilometers"),
    "M": (
        "M",
        "nm",
        "nmi",
        "mile",
        "miles",
        "nauticalmile",
        "nauticalmiles",
        "nmile",
        "nmiles",
        "seamiles",
        "seamile",
    ),
    "ca": ("ca", "cable", "cables"),
    "ft": ("ft", "foot", "feet"),
    "kn": ("kn", "kt", "kts", "knot", "knots"),
    "m/s": ("m/s", "ms", "metrespersecond"),
    "km/h": ("km/h", "kmh", "kph"),
    "°": ("°", "deg", "degree", "degrees", "º"),
    "′": ("′", "'", "arcminute", "arcminutes", "min", "mins", "minute", "minutes"),
    "min": ("min", "mins", "minute", "minutes", "'", "′"),
    "h": ("h", "hr", "hrs", "hour", "hours"),
    "s": ("s", "sec", "secs", "second", "seconds"),
    "hPa": ("hpa", "mb", "mbar", "millibar", "millibars", "hectopascal", "hectopascals"),
    "°C": ("°c", "c", "celsius"),
    "days": ("days", "day", "d"),
    "%": ("%", "percent", "pct"),
}
FACTORS = {
    "length": {
        "m": 1.0,
        "cm": 0.01,
        "mm": 0.001,
        "km": 1000.0,
        "M": 1852.0,
        "ca": 185.2,
        "ft": 0.3048,
    },
    "speed": {"kn": 1852 / 3600, "m/s": 1.0, "km/h": 1 / 3.6},
    "angle": {"°": 60.0, "′": 1.0},
    "mass": {"g": 1.0, "kg": 1000.0},
    "volume": {"l": 1000.0, "ml": 1.0},
    "time": {"h": 3600.0, "min": 60.0, "s": 1.0},
}


def unit_named(text: str, wanted: str) -> str | None:
    """Return the unit that a text names (the wanted one if several could be meant), or None."""
    typed = re.sub(r"[\s.]", "", text)
    # One sign for minutes of time and of arc: the question says which.
    if wanted in {"min", "′"} and typed.lower() in NAMES["min"]:
        return wanted
    if typed in NAMES:
        return typed if typed != "m" or wanted != "M" else "M"
    folded = typed.lower()
    found = [unit for unit, names in NAMES.items() if folded in {n.lower() for n in names}]
    if wanted in found:
        return wanted
    if found:
        return found[0]
    return wanted if wanted and folded == wanted.lower() else None


def converted(value: float, unit: str, wanted: str) -> float | None:
    """Return a value in another unit of its kind, or None if they don't convert."""
    for factors in FACTORS.values():
        if unit in factors and wanted in factors:
            return value * factors[unit] / factors[wanted]
    return None
