#!/usr/bin/python3
"""Gives every text with a count its English singular and plural: "%n photo(s)" is "%n photo" and "%n photos".

./dev texts runs lupdate first, which collects the texts; forms that are there already are kept.
"""
import sys
import xml.etree.ElementTree as ET

path = sys.argv[1]
tree = ET.parse(path)
for message in tree.iter("message"):
    forms = message.find("translation").findall("numerusform")
    source = message.find("source").text
    while len(forms) < 2:
        forms.append(ET.SubElement(message.find("translation"), "numerusform"))
    for form, plural in zip(forms, ("", "s")):
        if not (form.text or "").strip():
            form.text = source.replace("(s)", plural)
    message.find("translation").attrib.pop("type", None)
ET.indent(tree, "    ")
text = ET.tostring(tree.getroot(), encoding="unicode")
open(path, "w", encoding="utf-8").write('<?xml version="1.0" encoding="utf-8"?>\n<!DOCTYPE TS>\n' + text + "\n")
