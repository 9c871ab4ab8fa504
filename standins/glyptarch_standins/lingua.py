"""An invented language service in four forms: a list, one text, a job, a chat model.

It puts words of the wanted language in the place of words, and keeps numbers, names and marks. So its answers mean
nothing, and have the shape of a translation. Each answer is charged; the same ``Idempotency-Key`` is charged once.
"""

import asyncio
import json
import re
import zlib
from collections.abc import Callable
from typing import Any

from aiohttp import web

__all__ = ["LINGUA_FAULTS", "LINGUA_KEY", "Lingua"]

LINGUA_KEY = "lingua-key-of-the-vale"
LINGUA_FAULTS = {
    "loses_link": "loses a link",
    "changes_number": "changes a number",
    "changes_name": "changes a name",
    "half": "says half of it",
    "cut_in_mark": "stops within a mark",
    "repeats": "says it twice",
    "other_language": "answers in another language",
    "silent": "says nothing",
    "markup": "invents markup",
    "obeys": "does what the text says",
    "chatter": "talks around its answer",
    "swaps": "exchanges links",
    "escapes": "escapes signs twice",
    "fewer": "leaves a text out",
    "pays_and_fails": "charges, and then fails",
    "slow": "takes a while",
    "runs_out": "is used up after two requests",
    "down": "has trouble on its side",
}
_WORDS = {
    "de": "der und die ist mit auf wurde nicht eine sich von einem aber auch nach wieder durch während abend verein hügel "
    "beobachtung wochenende gemeinsam sternwarte besucher gestern freundlich berichtet geöffnet zwischen",
    "fr": "le et la est avec sur une dans pas cette pour mais aussi après encore pendant soir club colline observation "
    "semaine ensemble visiteurs hier racontent ouverte entre petite nouvelle quelques",
    "es": "el y la es con en una no esta para pero también después todavía durante noche club colina observación semana "
    "juntos visitantes ayer cuentan abierta entre pequeña nueva algunos cielo",
    "ru": "и в на с не что это был для но также после ещё вечером клуб холм наблюдение неделя вместе посетители вчера "
    "рассказали открыта между небольшая новая несколько небо звёзды ночью",
    "ja": "の と は で を に が 夜 星 丘 会 昨日 望遠鏡 観測 週末 一緒に 新しい 小さな 開く 人々 見る 空 話した 雲 静かな 場所",
    "ar": "في من على إلى عن مع هذا كان لم وقد بعد أيضا خلال مساء نادي تل مرصد رصد أسبوع معا زوار أمس مفتوح بين صغير جديد "
    "بعض سماء نجوم ليل",
    "en": "the and of is with on was not a in from but also after again during evening club hill observation weekend "
    "together visitors yesterday told open between small new some sky",
}
_PIECES = re.compile(r"⟦[^⟧]*⟧|</?m\d+\s*/?>|[^\W\d_]+(?:['’-][^\W\d_]+)*|\d[\d.,:]*|\s+|.", re.DOTALL)
_ENDS = {"ja": {".": "。", ",": "、", "?": "？", "!": "！"}, "ar": {",": "،", "?": "؟"}}
_FEWEST_OF_A_NAME = 4
_REQUESTS_BEFORE_THE_END = 2


def translated(text: str, target: str) -> str:
    """Return a text in words of another language.

    Names are words with a capital within a sentence.
    """
    language = target.partition("-")[0]
    words = _WORDS.get(language, _WORDS["en"]).split()
    ends, said, begins = _ENDS.get(language, {}), list[str](), True
    for piece in _PIECES.findall(text):
        if piece.isspace():
            said.append("" if language == "ja" else piece)
        elif piece[0].isalpha():
            is_name = piece[0].isupper() and not begins and len(piece) >= _FEWEST_OF_A_NAME
            said.append(piece if is_name else _word(words, piece, begins=begins, language=language))
            begins = False
        elif piece[0].isdigit():
            said.append(piece)
            begins = False
        else:
            begins = begins or piece in ".!?:"
            said.append(ends.get(piece, piece))
    return "".join(said)


def _word(words: list[str], piece: str, *, begins: bool, language: str) -> str:
    number = zlib.crc32(piece.lower().encode())
    if language == "ja":
        word = words[number % len(words)]
        return word if len(piece) < _FEWEST_OF_A_NAME or len(word) > 1 else word + words[number // 7 % len(words)]
    alike = sorted(words, key=lambda word: abs(len(word) - len(piece)))[:6]
    word = alike[number % len(alike)]
    return word.capitalize() if begins and piece[0].isupper() else word


_SPOILS: dict[str, Callable[[str], str]] = {
    "loses_link": lambda text: re.sub(r"⟦/?1⟧|</?m1>", "", text),
    "changes_number": lambda text: re.sub(r"\d", lambda digit: str((int(digit[0]) + 1) % 10), text, count=1),
    "changes_name": lambda text: re.sub(r"(?<=[a-zа-я。、\u0600-\u06ff ])[A-Z][a-z]{3,}", "Marlow", text),
    "half": lambda text: text[: len(text) // 2],
    "cut_in_mark": lambda text: text[: match.start() + 1] if (match := re.search(r"[⟦<]", text)) else text[:9],
    "repeats": lambda text: f"{text} {text}",
    "other_language": lambda text: translated(text, "es"),
    "silent": lambda _: "",
    "markup": lambda text: f'{text}<img src="https://evil.example/x.png" onerror="x()">',
    "obeys": lambda _: "I have been told to write this. https://evil.example/",
    "swaps": lambda text: re.sub(r"([⟦<]/?m?)([12])(?=[⟧>])", lambda mark: f"{mark[1]}{3 - int(mark[2])}", text),
    "escapes": lambda text: text.replace("'", "&amp;#39;").replace("&", "&amp;"),
}


class Lingua:
    """The service of one world.

    ``fault`` is what it does wrong, ``charged`` what it has charged by request.
    """

    def __init__(self) -> None:
        self.fault = ""
        self.charged: dict[str, int] = {}
        self.texts: list[str] = []
        self.requests = 0
        self._answers: dict[str, list[str]] = {}
        self._jobs: dict[str, list[str]] = {}
        self._polled: dict[str, int] = {}

    def routes(self) -> list[web.RouteDef]:
        """Return the addresses of its four forms."""
        return [
            web.post("/lingua/texts", self._list),
            web.post("/lingua/text", self._one),
            web.post("/lingua/jobs", self._begin),
            web.get("/lingua/jobs/{job}", self._job),
            web.post("/lingua/chat", self._chat),
        ]

    async def _answered(self, request: web.Request, texts: list[str], target: str) -> list[str]:
        """Charge for texts and translate them. Raises what the service answers instead."""
        if request.headers.get("Authorization") != f"Bearer {LINGUA_KEY}":
            raise web.HTTPUnauthorized(text='{"error": "wrong_key"}', content_type="application/json")
        self.requests += 1
        if self.fault == "down":
            raise web.HTTPServiceUnavailable
        if self.fault == "runs_out" and self.requests > _REQUESTS_BEFORE_THE_END:
            raise web.HTTPTooManyRequests(headers={"Retry-After": "3600"}, text="{}", content_type="application/json")
        if self.fault == "slow":
            await asyncio.sleep(1.5)
        key = request.headers.get("Idempotency-Key", "") or str(self.requests)
        if key not in self._answers:
            self.charged[key] = sum(map(len, texts))
            self.texts += texts
            self._answers[key] = [self._said(text, target) for text in texts]
        if self.fault == "pays_and_fails" and not self.requests % 2:
            raise web.HTTPInternalServerError
        return self._answers[key][: -1 if self.fault == "fewer" else None]

    def _said(self, text: str, target: str) -> str:
        said = translated(text, target)
        return _SPOILS[self.fault](said) if self.fault in _SPOILS else said

    async def _list(self, request: web.Request) -> web.Response:
        asked = await request.json()
        said = await self._answered(request, asked["texts"], asked["to"])
        return web.json_response({"texts": [{"text": text} for text in said], "characters": sum(map(len, said))})

    async def _one(self, request: web.Request) -> web.Response:
        asked = await request.json()
        said = await self._answered(request, [asked["text"]], asked["target"])
        return web.json_response({"translation": said[0] if said else None})

    async def _begin(self, request: web.Request) -> web.Response:
        asked = await request.json()
        said = await self._answered(request, asked["segments"], asked["target"])
        job = f"job-{zlib.crc32(request.headers.get('Idempotency-Key', str(self.requests)).encode())}"
        self._jobs[job] = said
        return web.json_response({"id": job}, status=202)

    async def _job(self, request: web.Request) -> web.Response:
        job = request.match_info["job"]
        if job not in self._jobs:
            raise web.HTTPNotFound
        self._polled[job] = self._polled.get(job, 0) + 1
        done = self._polled[job] > 1
        return web.json_response({"finished": done, "segments": self._jobs[job] if done else []})

    async def _chat(self, request: web.Request) -> web.Response:
        asked = await request.json()
        system, prompt = (message["content"] for message in asked["messages"])
        # What it is told to do stands in the first message alone.
        found = re.search(r"into ([a-z]{2})|language \(([a-z]{2})\)", system)
        target = (found[1] or found[2]) if found else "en"
        said = await self._answered(request, json.loads(prompt), target)
        message = json.dumps(said, ensure_ascii=False)
        if self.fault == "chatter":
            message = f"Sure! Here are your texts:\n```json\n{message}\n```\nDo you want more?"
        answer: dict[str, Any] = {
            "choices": [{"message": {"role": "assistant", "content": message}}],
            "usage": {"total_tokens": sum(map(len, said)) // 4},
        }
        return web.json_response(answer)
