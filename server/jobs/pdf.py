"""The job sheet as PDF, by fpdf2, from the same facts as the page; fonts ship with it."""

from __future__ import annotations

import re
from datetime import datetime
from io import BytesIO
from pathlib import Path
from zoneinfo import ZoneInfo

import segno
from fpdf import FPDF
from fpdf.enums import XPos, YPos

from jobs.back_schemas import SheetOut
from temper_core.basis.dates import day_words
from temper_core.basis.in_units import System, shown_in

FONTS = Path(__file__).with_name("fonts")
MARGIN, NAME_WIDTH = 16.0, 46.0  # mm
INK, INK2 = (16, 26, 32), (61, 74, 83)


class _Sheet(FPDF):
    """A4 with its number of pages at the foot."""

    foot = ""

    def footer(self) -> None:
        """What it is of, and which page."""
        self.set_y(-14)
        self.set_font("Archivo", size=8.5)
        self.set_text_color(*INK2)
        self.cell(0, 5, f"{self.foot}   page {self.page_no()} of {{nb}}", align="L")


def sheet_pdf(out: SheetOut, zone: str, system: System, *, plain: bool) -> bytes:
    """One job's sheet; plain: in the customer's words only."""
    pdf = _Sheet(format="A4", unit="mm")
    for style, weight in (("", "Regular"), ("B", "Bold")):
        pdf.add_font("Archivo", style, FONTS / f"Archivo-{weight}.ttf")
        pdf.add_font("ArchivoExt", style, FONTS / f"ArchivoExt-{weight}.ttf")
    pdf.set_fallback_fonts(["ArchivoExt"], exact_match=False)
    pdf.set_title(f"{out.machine.fleet_number} {out.loop_name}, coolant service")
    pdf.set_author(out.depot)
    pdf.foot = f"{out.depot}, {out.machine.fleet_number}, {out.loop_name}"
    pdf.set_margins(MARGIN, MARGIN)
    pdf.set_auto_page_break(True, 20)
    pdf.add_page()
    _head(pdf, out, zone)
    if plain:
        for said in out.sheet.plain:
            _paragraph(pdf, shown_in(said, system), 12.5, 7)
    else:
        for part in out.sheet.parts:
            _part(pdf, part.head, [(line.name, shown_in(line.said, system)) for line in part.lines])
    if out.corrections:
        _part(
            pdf, "Corrections after sign-off", [(_when(row.at, zone), f"{row.text} ({row.by})") for row in out.corrections]
        )
    _foot(pdf, out, zone)
    _signatures(pdf)
    return bytes(pdf.output())


def _kept(text: str) -> str:
    """A figure and its unit stay on one line."""
    return re.sub(r"(?<=\d) (?=(°|L\b|K\b|kPa|%|min\b|US qt|imp gal|psi))", "\N{NO-BREAK SPACE}", text)


def _when(at: datetime, zone: str) -> str:
    local = at.astimezone(ZoneInfo(zone))
    return f"{day_words(local.date())} {local:%H:%M}"


def _head(pdf: FPDF, out: SheetOut, zone: str) -> None:
    code = BytesIO()
    segno.make(out.address, error="m", micro=False).save(code, kind="png", scale=8, border=0)
    pdf.image(code, x=pdf.w - MARGIN - 26, y=MARGIN, w=26, alt_text=out.address)
    pdf.set_text_color(*INK)
    pdf.set_font("Archivo", "B", 26)
    pdf.cell(0, 11, out.machine.fleet_number, new_x=XPos.LMARGIN, new_y=YPos.NEXT)
    pdf.set_font("Archivo", size=12)
    name = f"{out.machine.kind}, {out.loop_name}"
    pdf.cell(pdf.epw - 32, 6, name, new_x=XPos.LMARGIN, new_y=YPos.NEXT)
    if out.owner is not None:
        said = ", ".join(text for text in (out.owner.name, out.owner.telephone, out.owner.email) if text)
        pdf.cell(pdf.epw - 32, 6, f"For {said}", new_x=XPos.LMARGIN, new_y=YPos.NEXT)
    when = f"In {_when(out.opened_at, zone)}" if out.opened_at else ""
    if out.signed_at and out.signed_by:
        when += f", signed off {_when(out.signed_at, zone)} by {out.signed_by.name}"
    pdf.cell(pdf.epw - 32, 6, when or "No job yet", new_x=XPos.LMARGIN, new_y=YPos.NEXT)
    if out.signed_at is None:
        pdf.set_font("Archivo", "B", 12)
        pdf.cell(0, 6, "In progress: not signed off.", new_x=XPos.LMARGIN, new_y=YPos.NEXT)
    pdf.set_y(max(pdf.get_y(), MARGIN + 28) + 2)


def _part(pdf: FPDF, head: str, lines: list[tuple[str, str]]) -> None:
    if pdf.get_y() > pdf.h - 45:
        pdf.add_page()
    pdf.set_draw_color(*INK)
    pdf.set_line_width(0.5)
    pdf.line(MARGIN, pdf.get_y(), pdf.w - MARGIN, pdf.get_y())
    pdf.ln(1.5)
    pdf.set_text_color(*INK)
    pdf.set_font("Archivo", "B", 12.5)
    pdf.cell(0, 7, head, new_x=XPos.LMARGIN, new_y=YPos.NEXT)
    for name, text in lines:
        top = pdf.get_y()
        if top > pdf.h - 30:
            pdf.add_page()
            top = pdf.get_y()
        pdf.set_font("Archivo", size=10.5)
        pdf.set_text_color(*INK2)
        pdf.multi_cell(NAME_WIDTH - 2, 5.6, name, align="L", new_x=XPos.LMARGIN, new_y=YPos.NEXT)
        after = pdf.get_y()
        pdf.set_xy(MARGIN + NAME_WIDTH, top)
        pdf.set_text_color(*INK)
        pdf.multi_cell(pdf.epw - NAME_WIDTH, 5.6, _kept(text), align="L", new_x=XPos.LMARGIN, new_y=YPos.NEXT)
        pdf.set_y(max(after, pdf.get_y()))
    pdf.ln(2.5)


def _paragraph(pdf: FPDF, text: str, size: float, height: float) -> None:
    pdf.set_font("Archivo", size=size)
    pdf.set_text_color(*INK)
    pdf.multi_cell(pdf.epw, height, _kept(text), align="L", new_x=XPos.LMARGIN, new_y=YPos.NEXT)
    pdf.ln(1.5)


def _foot(pdf: FPDF, out: SheetOut, zone: str) -> None:
    pdf.ln(2)
    names = ", ".join(out.by)
    if names:
        _paragraph(pdf, f"Worked on it: {names}.", 10.5, 5.6)
    _paragraph(pdf, "The maker's instructions, local rules and licensed practice come before this sheet.", 9.5, 5)


SIGN_MM = 26.0  # room for a hand


def _signatures(pdf: FPDF) -> None:
    """A line each for the technician's and the customer's hand, together on one page."""
    if pdf.get_y() > pdf.h - 20 - SIGN_MM:
        pdf.add_page()
    pdf.ln(SIGN_MM - 10)
    top, half = pdf.get_y(), pdf.epw / 2 - 6
    pdf.set_draw_color(*INK)
    pdf.set_line_width(0.3)
    pdf.set_font("Archivo", size=9.5)
    pdf.set_text_color(*INK2)
    for x, name in ((MARGIN, "Technician, date"), (MARGIN + half + 12, "Customer, date")):
        pdf.line(x, top, x + half, top)
        pdf.set_xy(x, top + 1)
        pdf.cell(half, 5, name)
