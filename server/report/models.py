"""The words of the analyst, and the editions that were issued."""

from django.conf import settings
from django.db import models

from server.book.models import Page
from server.shared.words import sentence


class Draft(models.Model):
    """What the analyst says of a page: overall status, its reason, words. The figures are never here."""

    page = models.OneToOneField(Page, on_delete=models.CASCADE, related_name="draft")
    status = models.CharField(max_length=20, default="")
    reason = models.TextField(default="")
    words = models.TextField(default="")


class Edition(models.Model):
    """An issued report. It never changes: the HTML and PDF are kept as they were made, with a digest over both."""

    page = models.ForeignKey(Page, on_delete=models.PROTECT, related_name="editions")
    number = models.IntegerField()
    status = models.CharField(max_length=20)
    issued_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT)
    issued_at = models.DateTimeField(auto_now_add=True)
    html = models.TextField()
    pdf = models.BinaryField()
    digest = models.CharField(max_length=64)

    class Meta:
        ordering = ["number"]
        constraints = [models.UniqueConstraint("page", "number", name="edition_number")]

    def save(self, *args: object, **kwargs: object) -> None:
        if not self._state.adding:
            raise TypeError(sentence("models.edition_never_changes"))
        super().save(*args, **kwargs)  # type: ignore[arg-type]
