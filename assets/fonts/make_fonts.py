#!/usr/bin/python3
"""Makes Frenlo's two text fonts from Debian's fonts-inter: Inter whose figures all have one width.

Qt 6.4 cannot switch OpenType features on, and a clock whose figures jump is unpleasant, so the tabular figures (feature
tnum) are put in the place of the proportional ones. The family is renamed, as the Open Font License asks of changed fonts
with a reserved name, and to keep an installed Inter apart from it.

Run by hand: assets/fonts/make_fonts.py (needs fonts-inter and python3-fonttools). The results are committed.
"""
import pathlib
from fontTools.ttLib import TTFont

SOURCE = pathlib.Path("/usr/share/fonts/opentype/inter")
TARGET = pathlib.Path(__file__).parent
FAMILY = "Frenlo Text"


def tabular(font):
    """Glyph name of each tabular figure, from the single substitutions of the feature tnum."""
    gsub = font["GSUB"].table
    found = {}
    for record in gsub.FeatureList.FeatureRecord:
        if record.FeatureTag != "tnum":
            continue
        for index in record.Feature.LookupListIndex:
            for table in gsub.LookupList.Lookup[index].SubTable:
                table = getattr(table, "ExtSubTable", table)
                found.update(getattr(table, "mapping", {}))
    return found


for weight in ("Regular", "SemiBold"):
    font = TTFont(SOURCE / f"Inter-{weight}.otf")
    swap = tabular(font)
    for table in font["cmap"].tables:
        for code in list(table.cmap):
            if chr(code) in "0123456789":
                name = table.cmap[code]  # subtables may share one dictionary: already swapped stays
                table.cmap[code] = swap.get(name, name)
    for record in font["name"].names:
        text = record.toUnicode()
        if record.nameID in (1, 3, 4, 6, 16):
            record.string = text.replace("Inter", FAMILY.replace(" ", "") if record.nameID == 6 else FAMILY)
    font.save(TARGET / f"FrenloText-{weight}.otf")
