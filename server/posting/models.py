"""Hours as they were typed, day by day: what an entry of the page is the sum of."""

from django.db import models

from server.book.models import Activity, Page, Resource


class DayHours(models.Model):
    """Minutes of one day of an assignment. Of an entry that says something else by now they say nothing any more."""

    page = models.ForeignKey(Page, on_delete=models.CASCADE, related_name="days")
    activity = models.ForeignKey(Activity, on_delete=models.CASCADE, related_name="+")
    resource = models.ForeignKey(Resource, on_delete=models.CASCADE, related_name="+")
    day = models.DateField()
    minutes = models.PositiveIntegerField()

    class Meta:
        ordering = ["day"]
        constraints = [models.UniqueConstraint("page", "activity", "resource", "day", name="one_entry_a_day")]

    def __str__(self) -> str:
        return f"{self.day}: {self.minutes}"
