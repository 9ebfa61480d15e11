"""`manage.py load_demo`: the Quillfield Hill Observatory's bench, made anew from its drawings."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

from django.contrib.auth import get_user_model
from django.core.management.base import BaseCommand, CommandParser

from demo.benches import PIECES, DemoPiece, match, things_of, wrongly_split
from demo.cards import card_for
from demo.checks import load_checks
from demo.dress import draw_out, dress
from demo.runs import load_runs
from demo.visits import STEPS
from paleta.colour import hex_to_lab
from paleta.devices import photograph
from paleta.light import Lamp
from paleta.order import SCHOOLS
from server.accounts.models import DemoAccount
from server.accounts.visits import DEMO_USERNAME
from server.derived import pictures
from server.derived.maps import found_map, region_map
from server.drawers.models import Drawer, OwnPaper
from server.drawers.papers import keep_paper
from server.drawers.services import give_starter_drawers
from server.pieces.colours.ramps import colour_all_wishes
from server.pieces.models import Piece
from server.pieces.regions.services import join_regions
from server.pieces.sheet.services import describe
from server.pieces.shelf.services import add_piece, look
from server.pieces.steps import keep_step
from server.recipes.services import keep_recipe
from server.runs.models import Run

PASSWORD = "quillfield-hill"


class Command(BaseCommand):
    help = "Load the demo: one user, its drawers, eight pieces, a logbook. Does nothing if all of it is there already."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--anew", action="store_true", help="throw the demo user's things away first")

    def handle(self, *args: Any, **options: Any) -> None:
        if options["anew"]:
            get_user_model().objects.filter(username=DEMO_USERNAME).delete()
        demo = open_account()
        if demo is None or demo.to_come == 0:
            return
        user = demo.user
        # What an earlier start had begun is made anew: all of a piece or nothing.
        Piece.objects.filter(owner=user).delete()
        Run.objects.filter(owner=user).delete()
        OwnPaper.objects.filter(owner=user).delete()
        demo.to_come = STEPS
        demo.save()
        self.stdout.write("Drawing, scanning and colouring the demo:")
        pieces = {}
        for made in PIECES:
            self.stdout.write(f"  {made.title} ...")
            piece = pieces[made.title] = load_piece(user, made)
            # The first look at the shelf should not be at grey boxes.
            pictures.small_picture(piece.stamping, piece.sheet(), pictures.SHELF_PX)
            self.step(demo)
        self.stdout.write("  the logbook ...")
        load_runs(user, pieces)
        self.step(demo)
        self.stdout.write("  photos of cards ...")
        load_checks(user, pieces["Three on the shelf"])
        self.step(demo)

    @staticmethod
    def step(demo: DemoAccount) -> None:
        demo.to_come -= 1
        demo.save(update_fields=["to_come"])


def open_account() -> DemoAccount | None:
    """The demo's account with its drawers, made now if there is none; its shelf is still empty then. None where
    somebody else has the demo's name."""
    users = get_user_model().objects
    old = users.filter(username=DEMO_USERNAME).first()
    if old is None:
        user = users.create_user(username=DEMO_USERNAME, password=PASSWORD)
        give_starter_drawers(owner=user)
        return DemoAccount.objects.create(user=user, to_come=STEPS)
    if hasattr(old, "demo"):
        return old.demo
    # Demos loaded before they were marked: whoever has the demo's own password is the demo.
    return DemoAccount.objects.create(user=old) if old.check_password(PASSWORD) else None


def load_piece(user: Any, demo: DemoPiece) -> Piece:
    """Scan one drawing and, if it has a school, colour it as a person would."""
    drawing, data, seen = demo.make()
    if demo.photographed:
        photo, _ = photograph(data, seed=demo.seed)
        corners = look(photo)["corners"]
        piece = add_piece(actor=user, data=photo, title=demo.title, corners=corners, width_mm=drawing.width_mm)
        piece = _whites(user, piece, demo)
        piece = colour_all_wishes(actor=user, piece=piece, version=piece.version)
        keep_recipe(actor=user, piece=piece, version=piece.version)
        return piece
    piece = add_piece(actor=user, data=data, title=demo.title)
    if demo.school is None:
        return piece
    for labels in wrongly_split(found_map(piece.stamping, piece.sheet()), seen):
        piece = join_regions(actor=user, piece=piece, version=piece.version, labels=labels)
    piece = _describe(user, piece, demo, drawing, seen)
    piece = colour_all_wishes(actor=user, piece=piece, version=piece.version)
    if demo.drawn_out:
        piece = draw_out(user, piece)
    if demo.glossy:
        white = (96.0, 0.2, -2.4)
        known = {"name": "Glossy card", "gsm": 300, "surface": "glossy", "behaves": ["slides"], "dries": 4.0}
        paper = keep_paper(actor=user, lab=white, **known)
        changes = {"paper": paper.code}
        piece = describe(actor=user, piece=piece, version=piece.version, part="stamp", changes=changes)
    piece = dress(user, piece, demo.ground, demo.over, demo.accents)
    keep_recipe(actor=user, piece=piece, version=piece.version)
    return piece


WHITES = ("#f4f1ea", "#e3e6df", "#eadfd2", "#d9e2ea")
"""Wishes for what is drawn in white pencil on kraft, in turn."""


def _whites(user: Any, piece: Piece, demo: DemoPiece) -> Piece:
    """White pencil makes the body of everything on kraft; a touch of colour on every other thing."""
    sheet = piece.sheet()
    drawer = Drawer.objects.owned_by(user).get(medium=demo.medium)
    sheet = sheet.with_part("colours", medium=demo.medium, drawers=(str(drawer.pk),))
    assert demo.school is not None
    sheet = replace(sheet, order=sheet.order.with_school(SCHOOLS[demo.school]))
    leads = sheet.regions.thing_leads()
    turn = {lead: place for place, lead in enumerate(sorted(set(leads.values())))}
    changed = {
        label: replace(one, wish_lab=hex_to_lab(WHITES[turn[leads[label]] % len(WHITES)]), shades=2)
        for label, one in sheet.regions.settings.items()
    }
    sheet = sheet.with_regions(changed).with_part("stamp", paper=demo.paper, outline_ink=demo.ink, powder=demo.powder)
    return keep_step(actor=user, piece=piece, version=piece.version, what="White pencil on kraft", sheet=sheet)


def _describe(user: Any, piece: Piece, demo: DemoPiece, drawing: Any, seen: Any) -> Piece:
    drawer = Drawer.objects.owned_by(user).get(medium=demo.medium)
    sheet = piece.sheet().with_part("colours", medium=demo.medium, drawers=(str(drawer.pk),))
    sheet = replace(sheet, order=sheet.order.with_school(SCHOOLS[demo.school]))
    settings, changed = sheet.regions.settings, {}
    matches = match(region_map(piece.stamping, sheet), drawing, seen, tilt_deg=demo.faults.turn_deg)
    things = things_of(matches)
    for found in matches:
        changed[found.label] = replace(
            settings[found.label],
            name=found.name,
            form=found.form,
            axis_deg=found.axis_deg,
            base_mm=found.base_mm,
            guessed=False,
            depth=found.depth,
            body=found.body,
            thing=things[found.label],
            shades=found.shades,
            wish_lab=found.wish_lab,
            left_as_paper=found.wish_lab is None,
        )
    for label in settings.keys() - changed.keys():
        changed[label] = replace(settings[label], name=f"Gap {label}", thing="", left_as_paper=True)
    sheet = (
        sheet.with_part("regions", unsure=())
        .with_regions(changed)
        .with_part("stamp", paper=demo.paper, outline_ink=demo.ink, powder=demo.powder)
    )
    sheet = sheet.with_part("finish", touches=demo.touches, notes=demo.finish).with_part(
        "card", spec=card_for(demo.drawing, sheet), notes=demo.card
    )
    lamp = Lamp(azimuth_deg=demo.lamp[0], elevation_deg=demo.lamp[1])
    sheet = sheet.with_part("light", lamp=lamp, glows=demo.glows)
    return keep_step(actor=user, piece=piece, version=piece.version, what="Named, lit and described", sheet=sheet)
