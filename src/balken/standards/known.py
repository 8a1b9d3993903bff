"""Every standard there is; a project says by which it is checked."""

from collections.abc import Mapping
from types import MappingProxyType

from balken.standards.standard import Standard
from balken.standards.us.standard import US

STANDARDS: Mapping[str, Standard] = MappingProxyType({US.id: US})
"""By their ids."""
USUAL: Standard = US
"""That of new projects, and of what is designed without a project."""
