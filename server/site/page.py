"""The single page of the web floor; it sets the cookie that guards against forged requests."""

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.template import TemplateDoesNotExist
from django.views.decorators.csrf import ensure_csrf_cookie

from server.shared.words import sentence


@ensure_csrf_cookie
def web_page(request: HttpRequest) -> HttpResponse:
    """index.html as built, whatever the address: the page finds its own way."""
    try:
        page = render(request, "index.html")
        page.content = page.content.replace(b'lang="en"', f'lang="{settings.LANGUAGE}"'.encode(), 1)
        return page
    except TemplateDoesNotExist:
        return HttpResponse(sentence("page.web_page_built_yet"), status=503, content_type="text/plain")
