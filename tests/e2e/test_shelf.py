"""The Shelf: things brought in, found by what they show, taken from the stock library, laid over words, named, deleted."""

import re

from playwright.sync_api import expect

from hovvet.core.plan.model import Plan, Video
from tests.e2e.base import BrowserCase
from tests.e2e.clips import ClipCase
from tests.e2e.test_preview import AGREE, Agreement
from tests.media import DEMO, ffmpeg


class Shelf(Agreement, ClipCase):
    def test_films_and_stickers_are_brought_in_found_and_kept_in_order(self):
        page = self.page
        page.get_by_role("link", name="Shelf", exact=True).click()
        expect(page.get_by_role("heading", name="Nothing here yet")).to_be_visible()
        film = self.data / "Steam_train.mp4"
        ffmpeg("-f", "lavfi", "-t", 2, "-i", "testsrc2=s=320x180:r=25", "-c:v", "libx264", "-preset", "ultrafast", film)
        page.set_input_files("[data-test=shelf-files]", [film, DEMO / "stickers" / "hot-drink.svg"])
        train, drink = (page.locator("[data-test=shelf-item]", has_text=name) for name in ("Steam train", "hot-drink"))
        expect(drink).to_be_visible()
        expect(train.locator("i")).to_be_visible(timeout=60_000)  # it is prepared
        train.hover()
        expect(train.locator("video")).to_be_visible()  # and plays

        drink.click()
        details = page.get_by_role("complementary")
        details.get_by_label("Add a tag").fill("coffee, morning")
        details.get_by_label("Add a tag").press("Enter")
        expect(details.get_by_text("morning", exact=True)).to_be_visible()
        details.get_by_label("Name").fill("A cup")
        details.get_by_label("Name").press("Enter")
        details.get_by_text("A favourite").click()
        expect(page.get_by_role("img", name="A favourite")).to_have_count(1)
        page.get_by_label("Search by words").fill("something warm to drink")
        expect(train).to_have_count(0)
        expect(page.locator("[data-test=shelf-item]")).to_have_text([re.compile("A cup")])
        page.get_by_label("Search by words").fill("")
        expect(train).to_be_visible()

        train.click()
        details.get_by_role("button", name="Delete…").click()
        expect(page.get_by_text("No clip uses it.")).to_be_visible()
        page.get_by_role("button", name="Delete", exact=True).click()
        expect(train).to_have_count(0)
        self.assertEqual(self.rows("select count(*) from recordings_recording where for_shelf"), [(0,)])
        self.assertEqual(self.problems, [])

    def test_what_the_library_has_is_laid_over_words_and_its_author_named(self):
        page = self.open_clip(other=False)
        settings, shelf = (page.get_by_role("region", name=name) for name in ("Settings", "B-roll"))
        self.select(page, 3, 9)
        said = " ".join(self.words(page)[3:10])
        page.keyboard.press("v")
        find = shelf.get_by_label("Find on the Shelf")
        expect(find).to_have_value(said)  # the search begins with what is said
        find.fill("gears turning")
        offered = shelf.locator("[data-test=stock] [data-test=shelf-item]").first
        expect(offered).to_contain_text("Gears turning")
        offered.click()
        expect(page.get_by_text("a post that shows it has to name its author, Ottilie Marsh")).to_be_visible()
        page.get_by_role("button", name="Take it").click()
        expect(settings.get_by_text("Part of it that is seen")).to_be_visible(timeout=60_000)
        expect(settings.locator("p[role=status]")).to_have_count(0)  # it is looked into, and long enough
        expect(page.locator("[data-state=running], [data-state=queued]")).to_have_count(0)  # and can be played
        plan = Plan.model_validate(self.document(page)["plan"])
        over = plan.picture[-1]
        assert isinstance(over.source, Video)
        self.assertNotEqual(over.source.media, plan.picture[0].source.media)
        self.assertGreaterEqual(self.stage_and_still(plan, (over.first + over.last) // 2), AGREE)

        page.keyboard.press("Escape")
        page.keyboard.press("Shift+B")
        expect(page.locator("[data-test=post-text]")).to_contain_text(
            "“Gears turning” by Ottilie Marsh (Harbour Stock)"
        )
        page.keyboard.press("Escape")

        # Its licence has ended: told on the Shelf, and at export with the place.
        page.get_by_role("link", name="Shelf", exact=True).click()
        page.locator("[data-test=shelf-item]", has_text="Gears turning").click()
        details = page.get_by_role("complementary")
        expect(details.get_by_role("link", name=re.compile("^.+"))).to_have_count(1)  # the clip that uses it
        details.get_by_label("Expires").fill("2026-01-31")
        details.get_by_label("Expires").press("Enter")
        expect(details.get_by_text("its licence ended on 31 January 2026")).to_be_visible()
        details.get_by_role("link").click()
        page.wait_for_selector(".play:not([disabled])")
        page.keyboard.press("x")
        refused = page.locator("[data-test=refused]")
        expect(refused).to_have_text(
            re.compile(r"“Gears turning”, at 0:\d\d, may not be used: its licence ended on 31 January 2026\.")
        )
        expect(page.locator("[data-test=export]")).to_be_disabled()
        page.locator("[data-test=export-faults]").get_by_role("button").click()
        fault = page.locator("[data-fault]").first  # the worst first
        expect(fault).to_be_focused()
        fault.get_by_role("button", name="Settings…").click()  # of what lies there
        expect(settings.get_by_text("Part of it that is seen")).to_be_visible()
        self.assertEqual(self.problems, [])


class Filled(BrowserCase):
    def test_a_clip_of_sound_alone_is_filled_with_six_pictures_in_twenty_actions(self):
        page = self.page
        self.bring_in_teaser()
        page.get_by_text("bench notes teaser", exact=True).click()
        page.wait_for_selector(".play:not([disabled])")
        page.locator(".word").first.click()
        page.locator(".word").last.click(modifiers=["Shift"])
        page.keyboard.press("m")
        page.wait_for_url("**/clips/*")
        page.wait_for_selector(".play:not([disabled])")
        self.assertEqual(self.document(page)["plan"]["picture"], [])

        stretches, laid, actions = page.locator("[data-test=stretch]"), page.locator(".state", has_text="Shows"), 1
        page.keyboard.press("Shift+V")
        expect(page.get_by_role("heading", name="Suggested b-roll")).to_be_focused()
        expect(stretches.first.locator("[data-test=shelf-item], p")).not_to_have_count(0)
        for n in range(stretches.count()):
            now = stretches.nth(n)
            expect(now).to_have_class(re.compile("now"))
            free = now.locator("[data-test=shelf-item]", has_text="Free to use")
            if laid.count() == 6:
                break
            actions += 1
            if not free.count():
                page.keyboard.press("ArrowDown")
                continue
            names = now.locator("[data-test=shelf-item]").all_inner_texts()
            page.keyboard.press(str(1 + next(k for k, name in enumerate(names) if "Free to use" in name)))
            expect(now.get_by_text(re.compile("^Shows "))).to_be_visible()
        expect(laid).to_have_count(6)
        self.assertLessEqual(actions, 20)

        # Films are seen once they are prepared; between pictures that follow closely nothing flickers up.
        page.wait_for_function(
            "async (id) => (await (await fetch(`/api/documents/${id}`)).json()).plan.picture.length >= 6",
            arg=page.url.rsplit("/", 1)[1], polling=1000, timeout=180_000,
        )  # fmt: skip
        plan = Plan.model_validate(self.document(page)["plan"])
        ends = {layer.last for layer in plan.picture}
        gaps = [layer.first - max((e for e in ends if e <= layer.first), default=0) for layer in plan.picture[1:]]
        self.assertFalse([gap for gap in gaps if 0 < gap < 0.6 * plan.rate.fps], gaps)
        for _ in range(6):
            page.keyboard.press("Control+z")
        expect(page.locator("[data-test=bar]")).to_have_count(0)

        # Music from the library under the whole clip, as soon as it is there; by the finder of commands.
        page.keyboard.press("Escape")
        page.keyboard.press("Control+k")
        page.keyboard.type("music under the whole clip")
        page.keyboard.press("Enter")
        settings = page.get_by_role("region", name="Settings")
        settings.locator("[data-test=stock] [data-test=shelf-item]", has_text="At the bench").click()
        expect(settings.locator("[data-test=wave] rect")).not_to_have_count(0, timeout=180_000)
        page.wait_for_function(
            "async (id) => (await (await fetch(`/api/documents/${id}`)).json()).plan.sound.some((each) => each.bus === 'music')",
            arg=page.url.rsplit("/", 1)[1], polling=1000, timeout=180_000,
        )  # fmt: skip
        plan = Plan.model_validate(self.document(page)["plan"])
        heard = [each for each in plan.sound if each.bus == "music"]
        self.assertGreater(len(heard), 1, "begun again where it is shorter")
        self.assertEqual((heard[0].sample, heard[-1].sample + heard[-1].samples), (0, plan.samples))
        self.assertEqual(self.problems, [])
        print(f"a clip of {plan.seconds:.0f} s filled with six pictures: {actions} actions")
