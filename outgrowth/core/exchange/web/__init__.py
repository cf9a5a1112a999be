"""Components as standard web code, and a laid-out scene as one static page."""

from outgrowth.core.exchange.web.page import page as page
