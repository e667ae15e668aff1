"""The whole API, typed; its OpenAPI document is what the front end's types are made from."""

from ninja import NinjaAPI
from ninja.security import django_auth

from hovvet.server.accounts.api import router as accounts
from hovvet.server.assets.api import router as assets
from hovvet.server.assets.stock_api import router as stock
from hovvet.server.choices import router as choices
from hovvet.server.cleaning import CleanParser
from hovvet.server.clips.api import router as clips
from hovvet.server.clips.cameras_api import router as cameras
from hovvet.server.clips.suggesting_api import router as suggesting
from hovvet.server.clips.using_api import router as using
from hovvet.server.deliveries.api import router as deliveries
from hovvet.server.delivery.api import router as delivery
from hovvet.server.delivery.covers_api import router as covers
from hovvet.server.delivery.packages_api import router as packages
from hovvet.server.delivery.shapes_api import router as shapes
from hovvet.server.delivery.timeline_api import router as timelines
from hovvet.server.documents.api import router as documents
from hovvet.server.documents.narrating_api import router as narration
from hovvet.server.documents.outlets_api import router as outlets
from hovvet.server.documents.sweep_api import router as sweeping
from hovvet.server.documents.words_api import router as words
from hovvet.server.drafts.api import router as drafts
from hovvet.server.jobs.api import router as jobs
from hovvet.server.notices.api import router as notices
from hovvet.server.outbox.api import router as outbox
from hovvet.server.outside.api import router as outside
from hovvet.server.passages.api import router as passages
from hovvet.server.passages.hooks_api import router as hooks
from hovvet.server.posts.api import router as posts
from hovvet.server.problems import handle_problems
from hovvet.server.proof.api import router as proof
from hovvet.server.recordings.angles_api import router as angles
from hovvet.server.recordings.api import router as recordings
from hovvet.server.recordings.broken_off_api import router as broken_off
from hovvet.server.recordings.shows_api import router as shows
from hovvet.server.review.api import router as reviews
from hovvet.server.review.public_api import router as review_page
from hovvet.server.scripts.api import router as scripts
from hovvet.server.share.api import router as shared
from hovvet.server.styles.captions_api import router as captions
from hovvet.server.styles.colour_api import router as colour
from hovvet.server.styles.house_api import router as house

api = NinjaAPI(title="Hovvet", version="1", auth=django_auth, docs_url=None, parser=CleanParser())
api.add_router("/session", accounts)
api.add_router("/choices", choices)
api.add_router("/shows", shows)
api.add_router("/recordings", recordings)
api.add_router("/broken-off", broken_off)
api.add_router("/recordings", angles)
api.add_router("/recordings", words)
api.add_router("/recordings", passages)
api.add_router("/documents", documents)
api.add_router("/documents", clips)
api.add_router("/documents", cameras)
api.add_router("/documents", sweeping)
api.add_router("/documents", suggesting)
api.add_router("/documents", hooks)
api.add_router("/documents", shapes)
api.add_router("/documents", posts)
api.add_router("/documents", covers)
api.add_router("/documents", timelines)
api.add_router("/documents", proof)
api.add_router("/scripts", scripts)
api.add_router("/drafts", drafts)
api.add_router("/narration", narration)
api.add_router("/outlets", outlets)
api.add_router("/captions", captions)
api.add_router("/house", house)
api.add_router("/assets", assets)
api.add_router("/assets", using)
api.add_router("/stock", stock)
api.add_router("/colour", colour)
api.add_router("", delivery)
api.add_router("/packages", packages)
api.add_router("", reviews)
api.add_router("/review", review_page)
api.add_router("", shared)
api.add_router("/deliveries", deliveries)
api.add_router("/outbox", outbox)
api.add_router("/outside", outside)
api.add_router("/notices", notices)
api.add_router("/jobs", jobs)
handle_problems(api)
