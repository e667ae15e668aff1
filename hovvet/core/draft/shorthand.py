"""What is written short, and how it is said: units, money, large numbers, abbreviations, signs. For English."""

MONTHS = (
    "January", "February", "March", "April", "May", "June", "July", "August", "September", "October", "November", "December",
)  # fmt: skip
DAYS = ("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday")
MONTH = {
    name[:length].lower(): name
    for name in MONTHS
    for length in (3, 4, len(name))
    if length == len(name) or name != "May"
}
MONTH |= {"may": "May"}
SHORT_DAY = {name[:length].lower(): name for name in DAYS for length in (3, 4, 5)}
MONTHS_PATTERN = rf"(?:{'|'.join(sorted({each.capitalize() for each in MONTH}, key=len, reverse=True))})"

# Of one, and of more than one.
UNITS: dict[str, tuple[str, str]] = {
    "km/h": ("kilometre an hour", "kilometres an hour"), "kph": ("kilometre an hour", "kilometres an hour"),
    "mph": ("mile an hour", "miles an hour"), "m/s": ("metre a second", "metres a second"),
    "km²": ("square kilometre", "square kilometres"), "km2": ("square kilometre", "square kilometres"),
    "m²": ("square metre", "square metres"), "m2": ("square metre", "square metres"),
    "m³": ("cubic metre", "cubic metres"), "m3": ("cubic metre", "cubic metres"), "cm³": ("cubic centimetre", "cubic centimetres"),
    "km": ("kilometre", "kilometres"), "cm": ("centimetre", "centimetres"), "mm": ("millimetre", "millimetres"),
    "µm": ("micrometre", "micrometres"), "nm": ("nanometre", "nanometres"), "m": ("metre", "metres"),
    "kg": ("kilogram", "kilograms"), "mg": ("milligram", "milligrams"), "g": ("gram", "grams"), "lbs": ("pound", "pounds"),
    "lb": ("pound", "pounds"), "oz": ("ounce", "ounces"), "ft": ("foot", "feet"), "in.": ("inch", "inches"), "mi": ("mile", "miles"),
    "yd": ("yard", "yards"), "ml": ("millilitre", "millilitres"), "mL": ("millilitre", "millilitres"), "cl": ("centilitre", "centilitres"),
    "l": ("litre", "litres"), "L": ("litre", "litres"), "°C": ("degree Celsius", "degrees Celsius"),
    "° C": ("degree Celsius", "degrees Celsius"), "°F": ("degree Fahrenheit", "degrees Fahrenheit"), "°": ("degree", "degrees"),
    "kWh": ("kilowatt hour", "kilowatt hours"), "kW": ("kilowatt", "kilowatts"), "MW": ("megawatt", "megawatts"), "W": ("watt", "watts"),
    "V": ("volt", "volts"), "mA": ("milliamp", "milliamps"), "A": ("amp", "amps"), "GHz": ("gigahertz", "gigahertz"),
    "MHz": ("megahertz", "megahertz"), "kHz": ("kilohertz", "kilohertz"), "Hz": ("hertz", "hertz"), "TB": ("terabyte", "terabytes"),
    "GB": ("gigabyte", "gigabytes"), "MB": ("megabyte", "megabytes"), "kB": ("kilobyte", "kilobytes"), "KB": ("kilobyte", "kilobytes"),
    "dB": ("decibel", "decibels"), "fps": ("frame a second", "frames a second"), "px": ("pixel", "pixels"), "ms": ("millisecond", "milliseconds"),
    "hrs": ("hour", "hours"), "hr": ("hour", "hours"), "h": ("hour", "hours"), "mins": ("minute", "minutes"), "min": ("minute", "minutes"),
    "secs": ("second", "seconds"), "sec": ("second", "seconds"), "s": ("second", "seconds"), "yrs": ("year", "years"), "yr": ("year", "years"),
    "t": ("tonne", "tonnes"), "ha": ("hectare", "hectares"), "cal": ("calorie", "calories"), "lm": ("lumen", "lumens"),
    "kcal": ("calorie", "calories"),
    "hp": ("horsepower", "horsepower"), "%": ("percent", "percent"), "‰": ("per thousand", "per thousand"),
    "per cent": ("percent", "percent"),
}  # fmt: skip
MONEY = {
    "$": ("dollar", "dollars", "cent", "cents"), "€": ("euro", "euros", "cent", "cents"), "£": ("pound", "pounds", "penny", "pence"),
    "¥": ("yen", "yen", "sen", "sen"), "₹": ("rupee", "rupees", "paisa", "paise"),
    "USD": ("dollar", "dollars", "cent", "cents"), "EUR": ("euro", "euros", "cent", "cents"), "GBP": ("pound", "pounds", "penny", "pence"),
}  # fmt: skip
LARGE = {
    "k": "thousand", "K": "thousand", "m": "million", "M": "million", "mn": "million", "bn": "billion", "B": "billion", "b": "billion",
    "tn": "trillion", "thousand": "thousand", "million": "million", "billion": "billion", "trillion": "trillion",
}  # fmt: skip
SHORT = {
    "e.g.": "for example,", "eg.": "for example,", "i.e.": "that is,", "ie.": "that is,", "etc.": "and so on", "vs.": "versus", "vs": "versus",
    "cf.": "compare", "approx.": "approximately", "dept.": "department", "govt.": "government",
    "incl.": "including", "excl.": "excluding", "est.": "established", "Dr.": "Doctor", "Dr": "Doctor", "Mr.": "Mister", "Mr": "Mister",
    "Mrs.": "Missus", "Mrs": "Missus", "Ms.": "Miz", "Prof.": "Professor", "Rev.": "Reverend", "Sr.": "Senior", "Jr.": "Junior",
    "Ave.": "Avenue", "Rd.": "Road", "Co.": "Company", "Ltd.": "Limited", "Inc.": "Incorporated", "a.m.": "a m", "p.m.": "p m",
    "et al.": "and others", "w/o": "without", "w/": "with", "b/c": "because", "and/or": "and or", "misc.": "miscellaneous",
    "max.": "maximum", "min.": "minimum", "avg.": "average", "tel.": "telephone", "Tel.": "telephone", "P.S.": "P S", "N.B.": "note",
    "a.k.a.": "also known as", "aka": "also known as", "FAQ": "F A Q", "ASAP": "as soon as possible", "DIY": "D I Y",
}  # fmt: skip
BEFORE_NUMBER = {
    "c.": "about", "ca.": "about", "no.": "number", "nos.": "numbers", "fig.": "figure", "figs.": "figures", "p.": "page", "pp.": "pages",
    "vol.": "volume",
    "ch.": "chapter", "sec.": "section", "eq.": "equation", "nr.": "number", "№": "number", "#": "number", "§": "section",
}  # fmt: skip
SIGNS = {"&": "and", "+": "plus", "=": "equals", "≈": "about", "~": "about", "×": "times", "÷": "divided by", "±": "plus or minus",
          "≤": "at most", "≥": "at least", "<": "less than", ">": "more than", "→": "to", "©": "copyright", "™": "", "®": "", "•": "",
          
    "°": "degrees", "@": "at"}  # fmt: skip
FRACTIONS = {"½": (1, 2), "¼": (1, 4), "¾": (3, 4), "⅓": (1, 3), "⅔": (2, 3), "⅕": (1, 5), "⅛": (1, 8),
    "⅜": (3, 8), "⅝": (5, 8), "⅞": (7, 8)}  # fmt: skip
