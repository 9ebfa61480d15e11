"""Colouring along as it is done: keys only, without the server, on two devices, with slips; and the logbook."""

from __future__ import annotations

import re
from typing import Any

from playwright.sync_api import Page, expect

from server.pieces.models import Piece
from server.pieces.regions.services import change_regions
from server.pieces.sheet.services import choose_school, describe, lay_over
from server.recipes.models import RecipeRecord
from server.recipes.services import keep_recipe
from server.runs.along import start_run, state_of
from server.runs.models import Run, RunEvent
from server.runs.presenters import present_run
from tests.browser.base import BrowserTest, browser
from tests.builders import as_file, line_drawing
from tests.server.builders import coloured, make_piece


class AlongTest(BrowserTest):
    def setUp(self) -> None:
        super().setUp()
        self.piece = coloured(make_piece(self.ana))
        self.already_signed_in()

    def begin(self, cards: int = 1) -> Page:
        """A run, opened and begun, with all it needs on the device."""
        version = Piece.objects.get(pk=self.piece.pk).version
        self.run_row = start_run(actor=self.ana, piece=self.piece, version=version, cards=cards)
        self.page.goto(f"{self.live_server_url}/runs/{self.run_row.pk}")
        self.page.get_by_role("button", name="Begin").click()
        self.lit(self.page)
        return self.page

    def lit(self, page: Page) -> None:
        expect(page.locator("canvas[data-ready]")).to_be_visible()

    def tick(self, page: Page, key: str = "PageDown") -> None:
        """One stint done, and the next one shown."""
        step = page.get_by_role("navigation", name="The course").locator("[aria-current]")
        before = step.get_attribute("aria-label")
        done = page.get_by_role("navigation", name="The course").locator("button:disabled")
        count = done.count()
        page.keyboard.press(key)
        expect(done).to_have_count(count + 1)
        self.assertIsNotNone(before)

    def all_is_sent(self) -> None:
        expect(self.page.get_by_text("not sent yet")).to_have_count(0)
        # The page's own loop: `wait_for_function` takes a promise itself for an answer.
        self.page.evaluate(
            """async () => {
              const open = indexedDB.open("paleta-along");
              const db = await new Promise((done) => { open.onsuccess = () => done(open.result); });
              const left = () => new Promise((done) => {
                const count = db.transaction("outbox").objectStore("outbox").count();
                count.onsuccess = () => done(count.result);
              });
              while (await left()) await new Promise((done) => setTimeout(done, 50));
              db.close();
            }"""
        )

    def laid(self) -> int:
        return Run.objects.get(pk=self.run_row.pk).passes_laid

    def finish(self, page: Page) -> None:
        """Tick off whatever is left."""
        heading = page.get_by_role("heading", name="coloured")
        for _ in range(200):
            if heading.count():
                break
            page.keyboard.press("PageDown")
            page.wait_for_timeout(60)
        expect(heading).to_be_visible()


class WalkTest(AlongTest):
    def test_from_the_bench_to_the_last_pass_by_keys_alone(self):
        page = self.open_piece(self.piece)
        self.section("Order")
        start = page.get_by_role("button", name="Colour along")
        start.focus()
        page.keyboard.press("Enter")
        begin = page.get_by_role("button", name="Begin")
        expect(begin).to_be_focused()
        expect(page.get_by_role("heading", name="in the order of first use")).to_be_visible()
        self.passes_axe("lay out")
        page.keyboard.press("Space")
        self.lit(page)
        self.passes_axe("along")
        first = page.locator("[data-swatch]").inner_text()
        self.run_row = Run.objects.get()
        self.tick(page, "Space")
        self.tick(page, "PageDown")
        done = page.get_by_role("navigation", name="The course").locator("button:disabled")
        for left in (1, 0):
            page.keyboard.press("PageUp")
            expect(done).to_have_count(left)
        expect(page.locator("[data-swatch]")).to_have_text(first)
        expect(page.get_by_role("button", name="Back (Page Up)")).to_be_disabled()
        self.finish(page)
        expect(page.get_by_text("It was coloured as planned")).to_be_visible()
        self.passes_axe("after")
        self.all_is_sent()
        run = Run.objects.get()
        self.assertEqual(run.passes_laid, run.passes)
        self.assertIsNotNone(run.seconds)

    def test_what_is_left_out_is_said_and_can_be_gone_on_with(self):
        page = self.begin()
        self.tick(page)
        page.get_by_role("button", name="Call it finished").click()
        page.get_by_role("button", name="It is finished").click()
        expect(page.get_by_role("list", name="What differed")).to_contain_text("left out")
        page.get_by_role("button", name="It is not finished").click()
        expect(page.get_by_role("button", name="Done, next")).to_be_visible()

    def test_a_newer_version_is_followed_when_it_is_wished(self):
        page = self.begin()
        self.tick(page)
        self.all_is_sent()
        piece = Piece.objects.get(pk=self.piece.pk)
        piece = choose_school(actor=self.ana, piece=piece, version=piece.version, school="M3")
        keep_recipe(actor=self.ana, piece=piece, version=piece.version)
        page.reload()
        self.lit(page)
        page.get_by_role("button", name="Version 2 is newer").click()
        expect(page.get_by_role("dialog").get_by_text("still to be laid")).to_be_visible()
        page.get_by_role("button", name="Follow it").click()
        expect(page.get_by_role("dialog")).to_have_count(0)
        expect(page.get_by_role("button", name="Version 2 is newer")).to_have_count(0)
        run = Run.objects.get()
        self.assertEqual(run.recipe_number, 2)
        # What the page shows as done is what the server holds for laid.
        laid = set(state_of(run).cards[0].laid)
        stints = [{*range(first, last + 1)} for first, last in self.stints(run)]
        done = page.get_by_role("navigation", name="The course").locator("button:disabled")
        expect(done).to_have_count(sum(1 for stint in stints if stint <= laid))
        self.tick(page)
        self.all_is_sent()
        self.assertEqual(Run.objects.get().passes_laid, len(laid) + len(self.next_stint(stints, laid)))

    @staticmethod
    def stints(run: Run) -> list[tuple[int, int]]:
        return [(one["first_pass"], one["last_pass"]) for one in present_run(run)["stints"]]

    @staticmethod
    def next_stint(stints: list[set[int]], laid: set[int]) -> set[int]:
        return next(stint - laid for stint in stints if not stint <= laid)

    def test_pen_by_pen_one_press_ticks_off_all_that_a_pen_does_and_the_log_holds_every_pass(self):
        self.piece = coloured(make_piece(self.ana, "One colour"), hexes=("#b8506f",))
        page = self.begin()
        course = page.get_by_role("navigation", name="The course").get_by_role("button")
        small = course.count()
        page.get_by_label("Step").select_option("pen by pen")
        expect(course).not_to_have_count(small)
        hands = [stint["hand"] for stint in present_run(self.run_row)["stints"]]
        expect(course).to_have_count(len(set(hands)))
        large = next(hand for hand in hands if hands.count(hand) > 1)
        for _ in range(large - 1):
            self.tick(page)
        lines = page.get_by_role("list", name="With this pen").get_by_role("listitem")
        expect(lines).to_have_count(hands.count(large))
        self.passes_axe("pen by pen")
        self.tick(page)
        self.all_is_sent()
        stints = self.stints(self.run_row)
        last = max(last for (_, last), hand in zip(stints, hands, strict=True) if hand == large)
        self.assertEqual(self.laid(), last)
        # In small steps again: what the pen did is done, pass by pass.
        page.get_by_label("Step").select_option("thing by thing")
        expect(course).to_have_count(small)
        done = page.get_by_role("navigation", name="The course").locator("button:disabled")
        expect(done).to_have_count(sum(hand <= large for hand in hands))
        # A step that was begun in small steps lays only what is left of it.
        self.tick(page)
        page.get_by_label("Step").select_option("pen by pen")
        self.reload()
        self.lit(page)
        self.finish(page)
        self.all_is_sent()
        laid = [n for line in Run.objects.get().events.all() for n in line.body.get("passes") or []]
        self.assertEqual(sorted(laid), list(range(1, stints[-1][1] + 1)))

    def test_a_pedal_that_bounces_ticks_off_one_stint(self):
        page = self.begin()
        page.evaluate(
            "() => { for (let i = 0; i < 5; i++) "
            "window.dispatchEvent(new KeyboardEvent('keydown', {key: 'PageDown', bubbles: true})); }"
        )
        done = page.get_by_role("navigation", name="The course").locator("button:disabled")
        expect(done).to_have_count(1)

    def test_several_cards_go_stretch_by_stretch(self):
        page = self.begin(cards=3)
        expect(page.get_by_text("card 1 of 3")).to_be_visible()
        for _ in range(len(self.run_row.lines) * 3):
            if page.get_by_text("card 2 of 3", exact=False).first.is_visible():
                break
            self.tick(page)
        expect(page.get_by_text(re.compile("Pass 1 of .*card 2 of 3"))).to_be_visible()

    def test_on_a_phone_the_big_button_is_in_sight_and_covers_no_other_one(self):
        page = self.begin()
        page.set_viewport_size({"width": 390, "height": 844})
        done = page.get_by_role("button", name="Done, next")
        others = [one for one in page.get_by_role("main").get_by_role("button").all() if "Done" not in one.inner_text()]
        height = page.evaluate("document.documentElement.scrollHeight")
        for down in range(0, height, 200):
            page.evaluate(f"window.scrollTo(0, {down})")
            top, bottom = (box := done.bounding_box())["y"], box["y"] + box["height"]
            with self.subTest(down=down):
                self.assertLessEqual(bottom, 844)
                for other in others:
                    place = other.bounding_box()
                    self.assertTrue(place["y"] >= bottom or place["y"] + place["height"] <= top, other.inner_text())

    def test_everything_is_large_enough_for_inky_hands(self):
        page = self.begin()
        for target in [*page.get_by_role("main").get_by_role("button").all(), *page.locator("nav button").all()[:5]]:
            box = target.bounding_box()
            self.assertGreaterEqual(min(box["width"], box["height"]), 48, target.get_attribute("aria-label"))

    def test_it_works_on_a_phone(self):
        self.page.set_viewport_size({"width": 390, "height": 844})
        page = self.begin()
        done = page.get_by_role("button", name="Done, next")
        expect(done).to_be_in_viewport()
        self.assertGreaterEqual(done.bounding_box()["height"], 48)
        wide = page.evaluate("() => document.documentElement.scrollWidth")
        self.assertLessEqual(wide, 390)
        for button in page.get_by_role("main").get_by_role("button").all():
            self.assertGreaterEqual(button.bounding_box()["height"], 48, button.inner_text())


class MaskTest(AlongTest):
    def setUp(self) -> None:
        super().setUp()
        behind = max(self.piece.sheet().regions.settings)
        self.piece = change_regions(
            actor=self.ana, piece=self.piece, version=self.piece.version, labels=[behind],
            changes={"role": "background"},
        )  # fmt: skip
        self.piece = describe(
            actor=self.ana, piece=self.piece, version=self.piece.version, part="order", changes={"masked": True}
        )

    def test_a_mask_is_lifted_once_the_ink_beside_it_is_dry(self):
        page = self.begin()
        title = page.locator("[data-swatch]")
        for _ in range(60):
            if title.inner_text() == "Lift the mask":
                break
            self.tick(page)
        expect(title).to_have_text("Lift the mask")
        expect(page.locator("[data-clock=dry]")).to_contain_text("dry in")


class AwayTest(AlongTest):
    def shell_is_kept(self, page: Page) -> None:
        page.evaluate(
            """async () => {
              const active = async () => (await navigator.serviceWorker.ready).active?.state === "activated";
              while (!(await active()) || (await caches.keys()).length === 0)
                await new Promise((done) => setTimeout(done, 50));
            }"""
        )

    def test_it_goes_on_without_the_server_and_nothing_is_lost_or_doubled(self):
        page = self.begin()
        self.shell_is_kept(page)
        self.tick(page)
        self.all_is_sent()
        self.context.set_offline(True)
        self.tick(page)
        self.tick(page)
        expect(page.get_by_text("2 lines are kept on this device and not sent yet")).to_be_visible()
        self.assertEqual(len(state_of(Run.objects.get()).cards[0].laid), 1)
        page.reload()
        self.lit(page)
        done = page.get_by_role("navigation", name="The course").locator("button:disabled")
        expect(done).to_have_count(3)
        self.tick(page)
        self.context.set_offline(False)
        self.all_is_sent()
        laid = [event.body for event in RunEvent.objects.filter(body__kind="laid")]
        self.assertEqual(len(laid), 4)
        self.assertEqual(len({one["id"] for one in laid}), 4)

    def test_two_devices_on_one_run_meet_without_a_question(self):
        page = self.begin()
        other = self.new_page()
        other.goto(page.url)
        self.lit_or_begun(other)
        self.tick(page)
        done = other.get_by_role("navigation", name="The course").locator("button:disabled")
        expect(done).to_have_count(1)
        self.tick(other)
        expect(page.get_by_role("navigation", name="The course").locator("button:disabled")).to_have_count(2)

    def lit_or_begun(self, page: Page) -> None:
        page.get_by_role("button", name="Begin").click()
        self.lit(page)

    def test_a_line_that_is_refused_is_shown_and_stays_until_it_is_sent_again_or_thrown_away(self):
        page = self.begin()
        words = "The line speaks of another plan than this run follows or ever followed."

        def refuse(route: Any) -> None:
            lines = route.request.post_data_json["events"]
            refused = [{"id": line["id"], "detail": words} for line in lines]
            route.fulfill(json={"accepted": [], "refused": refused, "events": [], "last": 1})

        page.route("**/events/", refuse)
        self.tick(page)
        kept = page.get_by_role("region", name="Not taken into the log")
        expect(kept).to_contain_text(words)
        expect(kept).to_contain_text("done")
        self.assertEqual(self.laid(), 0)
        page.unroute("**/events/")
        kept.get_by_role("button", name="Send again").click()
        expect(kept).to_have_count(0)
        self.all_is_sent()
        self.assertGreater(self.laid(), 0)
        page.route("**/events/", refuse)
        laid = self.laid()
        self.tick(page)
        kept.get_by_role("button", name="Throw away").click()
        expect(kept).to_have_count(0)
        self.assertEqual(self.laid(), laid)

    def test_another_browser_hears_of_it_through_the_server(self):
        page = self.begin()
        self.tick(page)
        self.all_is_sent()
        context = browser().new_context(viewport={"width": 1280, "height": 800})
        context.add_cookies(self.context.cookies())
        try:
            other = context.new_page()
            other.goto(page.url)
            self.lit(other)
            done = other.get_by_role("navigation", name="The course").locator("button:disabled")
            expect(done).to_have_count(1)
            self.tick(page)
            expect(done).to_have_count(2)
        finally:
            context.close()

    def test_a_run_that_is_not_ones_own_is_not_there(self):
        version = Piece.objects.get(pk=self.piece.pk).version
        run = start_run(actor=self.ana, piece=self.piece, version=version)
        self.context.clear_cookies()
        self.page.goto(f"{self.live_server_url}/runs/{run.pk}")
        expect(self.page.get_by_role("heading", name="Sign in first")).to_be_visible()


class SlipTest(AlongTest):
    def slip(self, page: Page, name: str, rescue: str) -> None:
        page.get_by_role("button", name="A slip").click()
        page.get_by_role("button", name=name).click()
        page.get_by_role("button", name=rescue).click()

    def test_space_after_another_pen_is_done_and_not_the_same_question_again(self):
        page = self.begin()
        page.get_by_role("button", name="Another pen").click()
        page.get_by_role("list", name="Nearest in your drawer").get_by_role("button").first.click()
        expect(page.get_by_role("dialog")).to_have_count(0)
        expect(page.get_by_role("button", name="Done, next")).to_be_focused()
        self.tick(page, "Space")
        expect(page.get_by_role("dialog")).to_have_count(0)

    def test_a_marker_is_not_lifted_with_putty_rubber_and_a_pencil_is(self):
        piece = Piece.objects.get(pk=self.piece.pk)
        pencils = self.ana.drawers.get(medium="pencil")
        self.piece = lay_over(actor=self.ana, piece=piece, version=piece.version, drawer=pencils)
        page = self.begin()
        steps = present_run(self.run_row)["steps"]
        pencil = next(place for place, one in enumerate(steps) if one["medium"] == "pencil")
        putty = page.get_by_role("list", name="Ways out").get_by_text("Lift with putty rubber")
        for wanted in (False, True):
            self.tick(page)
            page.get_by_role("button", name="A slip").click()
            page.get_by_role("button", name="Over the line").click()
            expect(page.get_by_text("A pale halo all round")).to_be_visible()
            expect(putty).to_have_count(int(wanted))
            page.keyboard.press("Escape")
            self.all_is_sent()
            while not wanted and self.laid() < pencil:
                self.tick(page)
                self.all_is_sent()

    def test_one_more_coat_says_what_it_was_noted_for_and_goes_with_back(self):
        page = self.begin()
        laid = page.locator("[data-swatch]").inner_text()
        self.tick(page)
        page.get_by_role("button", name="One more coat").click()
        expect(page.get_by_text(f"One more coat: {laid} on")).to_be_visible()
        self.all_is_sent()
        self.assertEqual(len(state_of(Run.objects.get()).cards[0].again), 1)
        back = page.get_by_role("button", name="Back (Page Up)")
        back.click()
        self.all_is_sent()
        back.click()
        expect(page.get_by_role("navigation", name="The course").locator("button:disabled")).to_have_count(0)
        self.all_is_sent()
        (card,) = state_of(Run.objects.get()).cards
        self.assertEqual((len(card.again), len(card.laid)), (0, 0))

    def test_a_slip_another_pen_and_a_coat_are_kept_as_version_2(self):
        page = self.begin()
        self.tick(page)
        self.slip(page, "A stripe", "Melt the step again")
        page.get_by_role("button", name="One more coat").click()
        planned = page.locator("[data-swatch]").inner_text()
        page.get_by_role("button", name="Another pen").click()
        nearest = page.get_by_role("list", name="Nearest in your drawer").get_by_role("button").first
        taken = nearest.inner_text().split("\n")[0]
        nearest.click()
        expect(page.locator("[data-swatch]")).to_have_text(taken)
        expect(page.get_by_text(f"instead of {planned}")).to_be_visible()
        self.note(page)
        self.finish(page)
        differed = page.get_by_role("list", name="What differed")
        for words in (f"{taken} instead of {planned}", "melt the step again", "once more", "A second thought"):
            expect(differed).to_contain_text(words)
        page.get_by_role("button", name="Keep what I did as version 2").click()
        expect(page.get_by_text("Kept as version 2.")).to_be_visible()
        self.assertEqual(RecipeRecord.objects.count(), 2)
        self.assertIn(taken, {one.name for one in Piece.objects.get().sheet().colours.swatches.values()})

    def note(self, page: Page) -> None:
        page.get_by_role("button", name="Note or photo").click()
        page.get_by_label("What to remember").fill("A second thought")
        page.get_by_role("button", name="Note it").click()

    def test_a_photo_is_kept_and_shown_in_the_logbook_side_by_side(self):
        page = self.begin()
        self.finish(page)
        page.get_by_role("button", name="Photo of the card, or a note").click()
        photo: Any = {"name": "card.jpg", "mimeType": "image/jpeg", "buffer": as_file(line_drawing(600, 500), "JPEG")}
        page.get_by_label("Photo of the card").set_input_files([photo])
        expect(page.get_by_role("list", name="Photos").get_by_role("img")).to_be_visible()
        self.all_is_sent()
        first = self.run_row
        self.begin()
        self.assertNotEqual(first.pk, self.run_row.pk)
        self.tick(page)
        self.all_is_sent()
        page.goto(f"{self.live_server_url}/logbook")
        boxes = page.get_by_role("checkbox")
        expect(boxes).to_have_count(2)
        self.passes_axe("logbook")
        boxes.nth(0).check()
        boxes.nth(1).check()
        page.get_by_role("button", name="Side by side (2)").click()
        beside = page.get_by_role("region", name="Side by side")
        expect(beside.get_by_role("img")).to_have_count(1)
        expect(beside).to_contain_text("not finished")
        self.passes_axe("side by side")
        page.get_by_role("button", name="Back to the list").click()
        page.get_by_label("With the swatch").fill("no such pen")
        expect(page.get_by_text("No run is like that.")).to_be_visible()

    def test_what_is_begun_stands_on_the_shelf(self):
        page = self.begin()
        self.tick(page)
        self.all_is_sent()
        page.get_by_role("link", name="Stop for now").click()
        page.goto(self.live_server_url)
        page.get_by_role("link", name="Go on colouring Ball and box").click()
        self.lit(page)
        self.assertEqual(self.laid() > 0, True)


class WordsTest(AlongTest):
    def test_reading_aloud_is_off_until_it_is_asked_for(self):
        self.page.add_init_script(
            "window.spoken = []; speechSynthesis.speak = (words) => window.spoken.push(words.text);"
        )
        page = self.begin()
        self.assertEqual(page.evaluate("window.spoken.length"), 0)
        page.get_by_label("Read aloud").check()
        page.wait_for_function("window.spoken.length === 1")
        self.tick(page)
        page.wait_for_function("window.spoken.length === 2")
        self.assertIn(page.locator("[data-swatch]").inner_text(), page.evaluate("window.spoken[1]"))
