"""Hours as they were typed, day by day: what an entry of the page is the sum of."""

from django.db import models

from server.book.models import Page


class DayHours(models.Model):
    """Minutes of one day of an assignment, by the codes of the activity and the resource.

    Of an entry that says something else by now they say nothing any more.
    """

    page = models.ForeignKey(Page, on_delete=models.CASCADE, related_name="days")
    activity = models.CharField(max_length=100)
    resource = models.CharField(max_length=100)
    day = models.DateField()
    minutes = models.PositiveIntegerField()

    class Meta:
        ordering = ["day"]
        constraints = [models.UniqueConstraint("page", "activity", "resource", "day", name="one_entry_a_day")]

    def __str__(self) -> str:
        return f"{self.day}: {self.minutes}"
