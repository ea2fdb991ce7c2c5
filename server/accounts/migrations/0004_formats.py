from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("accounts", "0003_once_until")]

    operations = [
        migrations.AddField("person", "decimal", models.CharField(max_length=1, choices=[(".", "Point"), (",", "Comma")], default=".")),
        migrations.AddField("person", "month_first", models.BooleanField(default=False)),
        migrations.AddField(
            "person",
            "first_day",
            models.CharField(max_length=3, choices=[("mon", "Monday"), ("sat", "Saturday"), ("sun", "Sunday")], default="mon"),
        ),
    ]
