"""A reviewer on a phone, without an account: watches, comments, wants changes; the editor fixes, shows a new version, and it is
approved."""

import re

from playwright.sync_api import Browser, Page, expect

from tests.e2e.accessible import AXE
from tests.e2e.clips import ClipCase

_PHONE = {"width": 390, "height": 844}
_VIOLATIONS = """async () => (await axe.run({resultTypes: ['violations']})).violations
    .map((each) => `${each.id}: ${each.nodes.map((node) => node.html.slice(0, 160)).join(' | ')}`)"""


class Review(ClipCase):
    small = True

    def test_commented_on_a_phone_fixed_shown_anew_and_approved(self):
        page = self.open_clip(other=False)
        self.shortened(page, 14)
        self.export(page, 1)
        link = self.shared(page)
        browser = page.context.browser
        assert browser
        phone = self.phone(browser, link)
        self.comments(phone)
        self.fixed(page)
        self.approves(phone)
        page.get_by_label("Sheet", exact=True).focus()
        page.keyboard.press("Shift+J")
        expect(page.locator("[data-test=review-link]")).to_contain_text("version 2: approved by Ilse", timeout=30_000)
        phone.context.close()
        self.assertEqual(self.problems, [])

    def export(self, page: Page, films: int) -> None:
        page.keyboard.press("x")
        page.locator("[data-test=export]").click()
        expect(page.locator("article[data-ready=true]")).to_have_count(films, timeout=300_000)

    def shared(self, page: Page) -> str:
        page.get_by_role("button", name="Review…").click()
        panel = page.get_by_role("region", name="Review")
        panel.get_by_role("button", name="Share for review…").click()
        panel.get_by_label("Password of the link").fill("brass gears")
        panel.get_by_label("Password of the link").press("Enter")
        expect(page.get_by_text("The link is copied.")).to_be_visible()
        link = panel.get_by_role("link", name="Open").get_attribute("href")
        assert link
        page.keyboard.press("Escape")
        return self.address + link

    def phone(self, browser: Browser, link: str) -> Page:
        """Another browser, with nothing of ours."""
        phone = browser.new_context(viewport=_PHONE, has_touch=True).new_page()
        phone.goto(link)
        phone.get_by_label("Password", exact=True).fill("steel gears")
        phone.get_by_role("button", name="Open").click()
        expect(phone.get_by_text("That is not the password of this link.")).to_be_visible()
        phone.get_by_label("Password", exact=True).fill("brass gears")
        phone.get_by_label("Password", exact=True).press("Enter")
        expect(phone.locator("[data-word]").first).to_be_visible()
        self.assertEqual(phone.evaluate("document.documentElement.scrollWidth"), _PHONE["width"])
        phone.evaluate(AXE)
        self.assertEqual(phone.evaluate(_VIOLATIONS), [])
        return phone

    def comments(self, phone: Page) -> None:
        comment = phone.get_by_label("Your comment")
        expect(phone.get_by_role("button", name="Comment", exact=True)).to_be_disabled()
        phone.get_by_label("Your name").fill("Ilse")
        phone.locator('[data-word="2"]').tap()
        expect(phone.locator('[data-word="2"].now')).to_have_count(1)  # the film is there, too
        self.assertGreater(phone.evaluate("document.querySelector('video').currentTime"), 0)
        comment.fill("This word can go")
        phone.get_by_role("button", name="Comment", exact=True).click()
        said = phone.locator("[data-test=comment]")
        expect(said).to_contain_text("This word can go")
        expect(phone.locator('[data-word="2"].marked')).to_have_count(1)
        box = phone.locator("video").bounding_box()
        assert box
        self.assertAlmostEqual(box["width"] / box["height"], 9 / 16, delta=0.01)  # nothing beside the film
        phone.get_by_role("button", name="At a place in the picture").click()
        phone.locator(".frame").click(position={"x": 60, "y": 90})
        comment.fill("<b>What</b> is that there?")
        phone.get_by_role("button", name="Comment", exact=True).click()
        expect(said).to_have_count(2)
        expect(said.filter(has_text="<b>What</b> is that there?")).to_contain_text("in the picture")
        phone.get_by_role("button", name="Changes wanted").click()
        expect(phone.locator("[data-test=verdict]")).to_have_text("Changes wanted by Ilse")

    def fixed(self, page: Page) -> None:
        """On the sheet: marked beside its words, walked to, answered, done; exported, and shown anew."""
        expect(page.locator(".rows .word.commented").first).to_be_visible(timeout=30_000)
        page.keyboard.press("Shift+J")
        panel = page.get_by_role("region", name="Review")
        expect(panel.locator("[data-test=comment]")).to_have_count(2, timeout=30_000)
        page.keyboard.press("ArrowDown")
        chosen = panel.locator("[data-test=comment].chosen")
        expect(chosen).to_contain_text("This word can go")
        chosen.get_by_label("Answer").fill("Gone")
        chosen.get_by_label("Answer").press("Enter")
        expect(chosen).to_contain_text("Gone")
        commented = page.locator(".rows .word.commented").first
        commented.click()
        page.get_by_label("Sheet", exact=True).focus()
        page.keyboard.press("Delete")
        expect(page.locator(".rows .word").nth(2)).to_have_class(re.compile("cut"))
        expect(chosen).to_contain_text("Its words are no longer in the clip.", timeout=30_000)
        chosen.get_by_role("button", name="Done").click()
        expect(panel.locator("[data-test=comment]").filter(has_text="This word can go")).to_be_hidden()
        page.keyboard.press("Escape")
        self.export(page, 2)
        page.keyboard.press("Escape")
        page.keyboard.press("Shift+J")
        panel.get_by_role("button", name="Show the new version").click()
        expect(panel.locator("[data-test=review-link]")).to_contain_text("version 2: to be reviewed")
        page.keyboard.press("Escape")

    def approves(self, phone: Page) -> None:
        expect(phone.get_by_text("Version 2")).to_be_visible(timeout=40_000)  # it comes by itself
        expect(phone.locator("[data-test=comment]").filter(has_text="is that there?")).to_be_visible()  # and goes along
        phone.get_by_role("button", name="Approve").click()
        expect(phone.locator("[data-test=verdict]")).to_have_text("Approved by Ilse")
