#!/usr/bin/env python3
"""Writes a man page from what a program says with --help: make_man.py PROGRAM NAME VERSION SUMMARY PAGE

A program with commands has a section for each, from its own --help.
"""
import gzip
import os
import re
import subprocess
import sys


def said(program, *words):
    environment = dict(os.environ, QT_QPA_PLATFORM="offscreen")
    return subprocess.run([program, *words, "--help"], check=True, capture_output=True, text=True, env=environment).stdout


def escaped(text):
    """As roff prints it: dashes are dashes, and no line is a request."""
    text = text.replace("\\", "\\e").replace("-", "\\-")
    return re.sub(r"(?m)^([.'])", r"\\&\1", text)


def verbatim(text):
    return ".nf\n" + escaped(text.strip("\n")) + "\n.fi\n"


def commands(text):
    """The names below "Subcommands:"."""
    part = re.search(r"(?ms)^Subcommands:\n(.*?)(?:^\S|\Z)", text)
    return re.findall(r"(?m)^  ([a-z][a-z-]*)", part.group(1)) if part else []


def main():
    program, name, version, summary, page = sys.argv[1:]
    whole = said(program)
    out = [f'.TH {name.upper()} 1 "" "Frenlo {version}" "User commands"\n',
           f".SH NAME\n{escaped(name)} \\- {escaped(summary)}\n", ".SH DESCRIPTION\n", verbatim(whole)]
    for command in commands(whole):
        out += [f".SH {escaped(command.upper())}\n", verbatim(said(program, command))]
    out += [".SH SEE ALSO\n", escaped("/usr/share/doc/frenlo; in the window, Help.") + "\n"]
    with open(page, "wb") as file, gzip.GzipFile(fileobj=file, mode="wb", mtime=0, filename="") as packed:
        packed.write("".join(out).encode())


main()
