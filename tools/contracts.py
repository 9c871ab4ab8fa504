"""An allow-list contract: the one rule that import-linter's own types cannot say."""

from typing import Any

from importlinter import Contract, ContractCheck, fields, output

__all__ = ["AllowedExternals"]


class AllowedExternals(Contract):  # type: ignore[misc]  # import-linter ships no types
    """``source`` may import itself, and outside its own root only the packages in ``allowed``."""

    source = fields.StringField()
    allowed = fields.SetField(subfield=fields.StringField())

    def check(self, graph: Any, verbose: bool) -> ContractCheck:  # noqa: ANN401, FBT001 - import-linter's signature
        """Collect the imports that are not on the list."""
        del verbose
        source, allowed = str(self.source), {str(name) for name in self.allowed}
        root = source.split(".", maxsplit=1)[0]
        modules = {source} | graph.find_descendants(source)
        broken = sorted(
            (importer, imported)
            for importer in modules
            for imported in graph.find_modules_directly_imported_by(importer)
            if imported.split(".")[0] not in allowed | {root}
        )
        return ContractCheck(kept=not broken, metadata={"broken": broken})

    def render_broken_contract(self, check: ContractCheck) -> None:
        """Name each import that is not on the list."""
        for importer, imported in check.metadata["broken"]:
            output.print_error(f"- {importer} -> {imported}")
