"""Requests for progress and the answers to them. They are the application's, not the book's: no figure rests on them."""

from django.conf import settings
from django.db import models

from server.book.models import Page


class Request(models.Model):
    """Somebody is asked, on one page, for some activities. `token` opens the sheet of it, until the page closes."""

    page = models.ForeignKey(Page, on_delete=models.CASCADE, related_name="requests")
    name = models.CharField(max_length=200)
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, related_name="requests")
    """Who signs in under that name, where there is one."""
    email = models.CharField(max_length=254, default="")
    activities = models.JSONField(default=list)
    until = models.CharField(max_length=30, default="")
    token = models.CharField(max_length=64, unique=True)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)
    reminded = models.DateTimeField(null=True)
    sent = models.CharField(max_length=300, default="")
    """What the mail server said of the latest message."""

    class Meta:
        ordering = ["id"]
        constraints = [models.UniqueConstraint("page", "name", name="asked_once")]

    def __str__(self) -> str:
        return f"{self.name}, {self.page}"


class State(models.TextChoices):
    """What became of an answer; one that its giver answered anew is passed."""

    WAITING = "waiting"
    TAKEN = "taken"
    LEFT = "left"
    PASSED = "passed"


class Answer(models.Model):
    """What somebody said of an activity. `uid` is its giver's own name for it: the same one arrives once, however often it is sent."""

    request = models.ForeignKey(Request, on_delete=models.CASCADE, related_name="answers")
    uid = models.CharField(max_length=64)
    activity = models.CharField(max_length=100)
    cells = models.JSONField(default=dict)
    hours = models.JSONField(default=dict)
    via = models.CharField(max_length=10)
    """The person's own page, or their sheet."""
    at = models.DateTimeField(auto_now_add=True)
    state = models.CharField(max_length=10, choices=State.choices, default=State.WAITING)

    class Meta:
        ordering = ["id"]
        constraints = [models.UniqueConstraint("request", "uid", name="answered_once")]

    def __str__(self) -> str:
        return f"{self.activity}: {self.cells}"
