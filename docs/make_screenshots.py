"""Make the pictures in docs/screenshots from the demo data: ``make screenshots`` (loads the demo if need be)."""

import os
import subprocess
import sys
import time
import urllib.request
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

ROOT = Path(__file__).parent.parent
SHOTS = ROOT / "docs" / "screenshots"
PORT = 8765
ADDRESS = f"http://localhost:{PORT}"
ARGUMENTS = [
    "--no-sandbox",
    "--disable-gpu",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-sync",
    "--use-fake-device-for-media-stream",
    "--use-fake-ui-for-media-stream",
]


def main() -> None:
    """Start the product on the demo data, walk through its views, take a picture of each."""
    subprocess.run([sys.executable, "manage.py", "load_demo"], cwd=ROOT, check=True)
    server = subprocess.Popen([sys.executable, "manage.py", "serve", "--port", str(PORT)], cwd=ROOT, env=os.environ)
    try:
        wait_until_up()
        with sync_playwright() as playwright:
            browser = playwright.chromium.launch(executable_path="/usr/bin/chromium-headless-shell", args=ARGUMENTS)
            page = browser.new_page(viewport={"width": 1280, "height": 800})
            page.set_default_timeout(60_000)
            take_all(page)
            browser.close()
    finally:
        server.terminate()
        server.wait(20)


def wait_until_up() -> None:
    """Until the server answers."""
    for _ in range(100):
        try:
            urllib.request.urlopen(f"{ADDRESS}/api/session", timeout=2)  # noqa: S310 - this machine
            return
        except OSError:
            time.sleep(0.2)
    raise SystemExit("the server did not start")


def shot(page: Page, name: str) -> None:
    """One picture."""
    page.screenshot(path=SHOTS / f"{name}.png")


def take_all(page: Page) -> None:
    """Every main view."""
    page.goto(ADDRESS)
    page.fill("#username", "demo")
    page.fill("#password", "mend-the-evening-first")
    page.click("button[type=submit]")
    page.wait_for_selector("text=Bench Notes")
    page.wait_for_load_state("networkidle")
    page.get_by_text("(exported)").wait_for()  # it was compared with its clip
    shot(page, "recordings")

    page.get_by_role("link", name="Shelf", exact=True).click()
    page.locator("[data-test=shelf-item]", has_text="Toast pops up").click()
    page.wait_for_load_state("networkidle")
    page.wait_for_timeout(600)  # the pictures of films
    shot(page, "shelf")
    page.get_by_role("link", name="Record", exact=True).click()
    page.get_by_role("link", name="An invitation, read to the camera").click()
    page.get_by_role("link", name="Takes").click()
    page.locator("[data-take-line]").nth(2).click()
    page.wait_for_load_state("networkidle")
    shot(page, "takes")
    page.get_by_role("navigation", name="Steps").get_by_role("link", name="Record").click()
    page.get_by_text("Tall feed").click()
    page.get_by_role("button", name="Open camera and microphone").click()
    page.locator("video").wait_for()
    page.wait_for_timeout(1500)  # the made camera begins
    shot(page, "record")
    page.goto(ADDRESS)

    page.click("text=Bench Notes: mend the evening first")
    page.wait_for_selector(".play:not([disabled])")
    page.click("text=Review before cutting")
    page.locator(".sweep .head button", has_text="Show").first.click()
    page.wait_for_selector("[data-test=after]")
    page.wait_for_load_state("networkidle")
    shot(page, "desk")
    page.goto(ADDRESS)
    page.locator("li", has_text="Open night").get_by_role("link", name="suggested passages").click()
    page.locator("[data-test=passage]").first.wait_for()
    page.get_by_role("list", name="Passages").focus()
    page.keyboard.press("ArrowDown")
    page.locator(".bracket.current").first.wait_for()
    page.wait_for_load_state("networkidle")
    shot(page, "passages")

    page.goto(ADDRESS)
    page.click("text=Nobody throws away a clock")
    page.wait_for_selector(".play:not([disabled])")
    page.get_by_role("tab", name="Clips").click()
    page.locator("aside li a", has_text="Nobody throws away").first.click()
    page.wait_for_selector(".play:not([disabled])")
    page.locator(".word").nth(12).click()
    page.wait_for_timeout(2500)  # the caption renderer draws in its own time
    shot(page, "sheet")
    page.keyboard.press("Shift+C")
    page.get_by_role("radio", name="Label").locator("..").click()
    page.get_by_role("button", name="Captions: Label").wait_for()
    page.get_by_role("slider", name="Place in the recording").evaluate(
        "(e) => { e.value = 7.4; e.dispatchEvent(new Event('input')) }"
    )
    page.wait_for_timeout(2500)  # the caption renderer draws in its own time
    shot(page, "captions")
    page.keyboard.press("Escape")
    page.keyboard.press("Control+z")
    page.get_by_role("button", name="Captions: Bold").wait_for()
    page.keyboard.press("Shift+P")
    page.locator("[data-fault].now").wait_for()
    page.wait_for_timeout(2500)  # the caption renderer draws in its own time
    shot(page, "proof")
    page.keyboard.press("Escape")

    # Faces are looked for after the demo was loaded; the clip opens its settings once they are there.
    page.get_by_text("Follow the speaker").first.click()
    page.locator("section[aria-label=Settings]").get_by_role("status").wait_for(state="detached", timeout=180_000)
    page.keyboard.press("Shift+S")
    page.wait_for_timeout(600)
    shot(page, "framing")
    page.keyboard.press("Shift+S")
    page.keyboard.press("Shift+L")
    page.get_by_role("button", name="Warm evening").click()
    page.get_by_role("heading", name="Colour: Warm evening").wait_for()
    page.wait_for_timeout(1500)  # the table of colours comes
    shot(page, "colour")
    page.keyboard.press("Escape")
    for _ in range(2):
        page.keyboard.press("Control+z")
    page.get_by_text("Warm evening").wait_for(state="detached")
    over_words(page)
    page.keyboard.press("Shift+A")
    page.get_by_role("region", name="Sound levels").wait_for()
    seek(page, 16.5)
    shot(page, "sound")
    page.keyboard.press("Escape")

    page.goto(ADDRESS)
    page.get_by_role("link", name="Most broken things are not broken").click()  # it is exported in three shapes
    page.wait_for_selector(".play:not([disabled])")
    page.get_by_role("button", name="Export", exact=True).click()
    page.wait_for_selector("article[data-ready=true]")
    shot(page, "export")
    page.keyboard.press("Escape")
    review(page)
    page.goto(f"{ADDRESS}/drafts")
    page.get_by_role("link", name="Mend it before you buy a new one").click()
    page.locator("[data-sentence='0']").wait_for()
    for _ in range(6):
        page.keyboard.press("ArrowDown")
    shot(page, "text")
    page.get_by_role("link", name="Deliveries", exact=True).click()
    page.locator("[data-test=board-row]").first.wait_for()
    page.wait_for_load_state("networkidle")
    shot(page, "board")
    page.get_by_role("link", name="Outbox", exact=True).click()
    page.locator("[data-test=posting]").first.wait_for()
    page.wait_for_load_state("networkidle")
    shot(page, "outbox")


def review(page: Page) -> None:
    """What somebody sees who has the link, and has said something."""
    page.keyboard.press("Shift+J")
    page.get_by_role("button", name="Share for review…").click()
    page.get_by_role("button", name="Make the link").click()
    link = page.get_by_role("link", name="Open").first.get_attribute("href")
    browser = page.context.browser
    assert browser
    other = browser.new_context(viewport={"width": 1280, "height": 800}).new_page()
    other.goto(f"{ADDRESS}{link}")
    other.get_by_label("Your name").fill("Ilse Varn")
    other.locator('[data-word="7"]').click()
    other.get_by_label("Your comment").fill("Could this come a little later, when he looks up?")
    other.get_by_role("button", name="Comment", exact=True).click()
    other.locator("[data-test=comment]").click()
    other.get_by_text("Your comment is there.").wait_for(state="hidden")
    shot(other, "review")
    other.context.close()


def over_words(page: Page) -> None:
    """Another camera over words, and the house style."""
    settings = page.get_by_role("region", name="Settings")
    page.get_by_text("Camera 2").first.click()
    settings.get_by_role("group", name="Cameras").wait_for()
    seek(page, 8.4)
    shot(page, "cameras")
    page.keyboard.press("Escape")
    page.keyboard.press("Shift+H")
    page.locator("[data-test=would]").first.wait_for()
    page.wait_for_timeout(800)  # the dialog comes up
    shot(page, "house")
    page.keyboard.press("Escape")
    page.locator(".el-dialog").wait_for(state="hidden")


def seek(page: Page, seconds: float) -> None:
    """Show a moment of the clip."""
    slider = page.get_by_role("slider", name="Place in the recording")
    slider.evaluate(f"(e) => {{ e.value = {seconds}; e.dispatchEvent(new Event('input')) }}")
    page.wait_for_timeout(2500)  # the caption renderer draws in its own time


if __name__ == "__main__":
    main()
