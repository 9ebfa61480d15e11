"""`manage.py load_demo`: the Quillfield Hill Observatory's bench, made anew from its drawings."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

from django.contrib.auth import get_user_model
from django.core.management.base import BaseCommand, CommandParser
from django.db import transaction

from demo.benches import PIECES, DemoPiece, match, wrongly_split
from paleta.devices import photograph
from paleta.impression import find_sheet
from paleta.light import Lamp
from server.accounts.services import DEMO_USERNAME
from server.drawers.models import Drawer
from server.drawers.services import give_starter_drawers
from server.pieces import bench, recipes, regions, services
from server.pieces.models import Piece
from server.pieces.steps import keep_step

PASSWORD = "quillfield-hill"


class Command(BaseCommand):
    help = "Load the demo: one user, its drawers, five pieces. Does nothing if it is there already."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--anew", action="store_true", help="throw the demo user's things away first")

    def handle(self, *args: Any, **options: Any) -> None:
        users = get_user_model().objects
        if options["anew"]:
            users.filter(username=DEMO_USERNAME).delete()
        if users.filter(username=DEMO_USERNAME).exists():
            return
        self.stdout.write("Drawing, scanning and colouring the demo:")
        with transaction.atomic():
            user = users.create_user(username=DEMO_USERNAME, password=PASSWORD)
            give_starter_drawers(owner=user)
            for demo in PIECES:
                self.stdout.write(f"  {demo.title} ...")
                piece = load_piece(user, demo)
                # The first look at the shelf should not be at grey boxes.
                bench.small_picture(piece, piece.sheet(), bench.SHELF_PX)


def load_piece(user: Any, demo: DemoPiece) -> Piece:
    """Scan one drawing and, if it has a school, colour it as a person would."""
    drawing, data, seen = demo.make()
    if demo.photographed:
        photo, _ = photograph(data, seed=demo.seed)
        loose, _ = services.read_loose(photo)
        return services.add_piece(
            actor=user, data=photo, title=demo.title, corners=find_sheet(loose), width_mm=drawing.width_mm
        )
    piece = services.add_piece(actor=user, data=data, title=demo.title)
    if demo.school is None:
        return piece
    for labels in wrongly_split(bench.found_map(piece, piece.sheet()), seen):
        piece = regions.join_regions(actor=user, piece=piece, version=piece.version, labels=labels)
    piece = _describe(user, piece, demo, drawing, seen)
    piece = services.colour_all_wishes(actor=user, piece=piece, version=piece.version)
    recipes.save_recipe(actor=user, piece=piece, version=piece.version)
    return piece


def _describe(user: Any, piece: Piece, demo: DemoPiece, drawing: Any, seen: Any) -> Piece:
    drawer = Drawer.objects.owned_by(user).get(medium=demo.medium)
    sheet = piece.sheet().with_medium(demo.medium, school=demo.school, drawer=str(drawer.pk))
    changed = {}
    for found in match(bench.region_map_of(piece, sheet), drawing, seen, tilt_deg=demo.faults.turn_deg):
        changed[found.label] = replace(
            sheet.regions[found.label],
            name=found.name,
            form=found.form,
            axis_deg=found.axis_deg,
            base_mm=found.base_mm,
            guessed=False,
            depth=found.depth,
            body=found.body,
            shades=found.shades,
            wish_lab=found.wish_lab,
            left_as_paper=found.wish_lab is None,
        )
    for label in sheet.regions.keys() - changed.keys():
        changed[label] = replace(sheet.regions[label], name=f"Gap {label}", left_as_paper=True)
    sheet = replace(
        sheet.with_regions(changed),
        paper=demo.paper,
        outline_ink=demo.ink,
        finish=demo.finish,
        touches=demo.touches,
        card=demo.card,
        lamp=Lamp(azimuth_deg=demo.lamp[0], elevation_deg=demo.lamp[1]),
        glows=demo.glows,
    )
    return keep_step(actor=user, piece=piece, version=piece.version, what="Named, lit and described", sheet=sheet)
