"""The words of the analyst, what reviewers said of them, the editions that were issued, and to whom they were sent."""

from django.conf import settings
from django.db import models

from server.book.models import Page, Project
from server.shared.words import sentence


class Draft(models.Model):
    """What the analyst says of a page: overall status, its reason, the summary, words of other sections by their key, and of each
    head its mark and reason. The figures are never here."""

    page = models.OneToOneField(Page, on_delete=models.CASCADE, related_name="draft")
    status = models.CharField(max_length=20, default="")
    reason = models.TextField(default="")
    words = models.TextField(default="")
    texts = models.JSONField(default=dict)
    heads = models.JSONField(default=dict)


class Edition(models.Model):
    """An issued report. It never changes: what it says and its files are kept as they were made, with a digest over all."""

    page = models.ForeignKey(Page, on_delete=models.PROTECT, related_name="editions")
    number = models.IntegerField()
    status = models.CharField(max_length=20)
    issued_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT)
    issued_as = models.IntegerField(null=True)
    """Who issued it, as that was sealed elsewhere: of an edition that came in with an archive."""
    issued_at = models.DateTimeField(auto_now_add=True)
    html = models.TextField()
    pdf = models.BinaryField()
    xlsx = models.BinaryField(null=True)
    content = models.JSONField(null=True)
    """Its sections as data, to compare editions by; absent from those issued before this was kept."""
    digest = models.CharField(max_length=64)

    class Meta:
        ordering = ["number"]
        constraints = [models.UniqueConstraint("page", "number", name="edition_number")]

    def save(self, *args: object, **kwargs: object) -> None:
        if not self._state.adding:
            raise TypeError(sentence("models.edition_never_changes"))
        super().save(*args, **kwargs)  # type: ignore[arg-type]


class Addition(models.Model):
    """Something added to the words of a page after they were sealed: it stands dated beside them, and is never changed.

    `subject` is overall, a section, or `heads.` with the name of a head; `mark` where one is given.
    """

    page = models.ForeignKey(Page, on_delete=models.CASCADE, related_name="additions")
    subject = models.CharField(max_length=220)
    mark = models.CharField(max_length=20, default="")
    text = models.TextField(default="")
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT)
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["id"]


class ReviewEvent(models.Model):
    """One thing said in the review of a page's report. Nothing is ever changed or deleted; the state follows from all of them.

    `kind`: asked, sent_back, approved, comment (beside a section), settled (the comment `about` was dealt with). `digest` is that of
    the words it was said of.
    """

    page = models.ForeignKey(Page, on_delete=models.CASCADE, related_name="review")
    kind = models.CharField(max_length=10)
    section = models.CharField(max_length=20, default="")
    text = models.TextField(default="")
    about = models.ForeignKey("self", on_delete=models.CASCADE, null=True)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT)
    at = models.DateTimeField(auto_now_add=True)
    digest = models.CharField(max_length=64)

    class Meta:
        ordering = ["id"]


class Recipient(models.Model):
    """Somebody on a project's distribution list."""

    project = models.ForeignKey(Project, on_delete=models.CASCADE, related_name="recipients")
    name = models.CharField(max_length=200)
    email = models.CharField(max_length=254)

    class Meta:
        ordering = ["name", "id"]
        constraints = [models.UniqueConstraint("project", "email", name="recipient_once")]


class Delivery(models.Model):
    """An edition sent to somebody, as the mail server answered: delivered or bounced."""

    edition = models.ForeignKey(Edition, on_delete=models.PROTECT, related_name="deliveries")
    name = models.CharField(max_length=200)
    email = models.CharField(max_length=254)
    state = models.CharField(max_length=10)
    detail = models.TextField(default="")
    sent_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT)
    sent_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["id"]
