"""All tests. None fails for being slow: other work may be done beside it."""

from hypothesis import HealthCheck, settings

settings.register_profile("hovvet", deadline=None, suppress_health_check=[HealthCheck.too_slow])
settings.load_profile("hovvet")
