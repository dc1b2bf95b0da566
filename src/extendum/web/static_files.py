"""Static files whose names carry a hash, also inside scripts that import one another."""

from whitenoise.storage import CompressedManifestStaticFilesStorage


class HashedFiles(CompressedManifestStaticFilesStorage):  # type: ignore[misc] # whitenoise has no types
    """Rewrites what a module of the application imports to the hashed name; libraries are left as they are."""

    support_js_module_import_aggregation = True
    _js_module_import_aggregation_patterns = (
        "js/*.js",
        CompressedManifestStaticFilesStorage._js_module_import_aggregation_patterns[1],
    )
