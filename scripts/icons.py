"""The application's icons as pictures of fixed size, drawn from its one mark: for a phone that holds it as an app."""

from pathlib import Path

from tests.ui.house import chromium

MARK, OUT = Path("web/public/favicon.svg"), Path("web/public")


def main() -> None:
    """Draw each size."""
    with chromium() as browser:
        for size in (192, 512):
            page = browser.new_page(viewport={"width": size, "height": size})
            mark = MARK.read_text(encoding="utf-8").replace("<svg ", f'<svg width="{size}" height="{size}" ').replace('rx="7"', 'rx="0"')
            page.set_content(f"<style>body{{margin:0}}svg{{display:block}}</style>{mark}")
            page.screenshot(path=OUT / f"icon-{size}.png")
            page.close()


if __name__ == "__main__":
    main()
