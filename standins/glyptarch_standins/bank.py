"""The stock of invented words that stories are put together from."""

from collections.abc import Mapping
from dataclasses import dataclass

__all__ = ["LEADS", "PEOPLE", "SLOTS", "TAILS", "TOPICS", "Topic"]

LEADS = (
    "On {day} evening",
    "Near {place}",
    "As {person} tells it",
    "By {hour}",
    "After a {mood} week",
    "Seen from {place}",
    "To nobody’s surprise",
    "In the words of {person}",
    "Late in {month}",
    "Against all forecasts",
    "With {count} of us there",
    "From what was written down at {place}",
    "Since {day}",
    "For the third time since {month}",
    "Under a {mood} sky",
)
TAILS = (
    "as it was told at {place}",
    "or so it is said in {place}",
    "which is more than we had in {month}",
    "by the count of {person}",
    "to the joy of {person}",
    "and {count} people saw it",
    "though {person} is not so sure",
    "a {mood} thing for {day}",
    "much as it was last {month}",
    "with {place} in full view",
    "before the bell at {place} struck",
    "and that was that until {hour}",
)

PEOPLE = ("Marit Oakes", "Tobin Quill", "Wren Castell", "Ida Farrow", "Jory Penhale", "Sefa Lindqvale", "Anselm Rooke")

SLOTS: Mapping[str, tuple[str, ...]] = {
    "place": (
        "Cold Lantern Hill", "Harrow Fen", "the Long Sedge", "Thistle Gate", "Millwater", "the old quarry",
        "Orrin ridge", "the east meadow", "Saint Aldwin’s field", "the reservoir wall", "Barley Cross", "Nettlecombe",
        "the lime kiln", "Upper Wick", "Goosey Lane", "the drovers’ road", "Halfmoon Wood", "Pennet Bridge", "the salt barn",
    ),
    "side": ("the north", "the south-east", "the west", "the north-west", "overhead", "the east"),
    "hour": ("21:14", "half past nine", "a quarter to eleven", "23:40", "just after midnight", "02:05", "ten o’clock"),
    "count": ("three", "four", "seven", "nine", "eleven", "fourteen", "two dozen"),
    "rate": ("12", "18", "25", "31", "40", "55"),
    "size": ("80 mm", "114 mm", "15 cm", "20 cm", "30 cm", "40 cm"),
    "mag": ("6.8", "7.4", "8.1", "8.9", "9.3", "10.2"),
    "star": ("the Plough", "the Lantern stars", "the Swan", "the Herdsman", "the Little Ladder", "the Great Square"),
    "day": ("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"),
    "mood": ("quiet", "cold", "windy", "long", "clear", "short", "good", "late", "slow", "lucky"),
    "price": ("18.50", "24.00", "39.90", "64.00", "89.00", "148.00"),
    "thing": ("finderscope bracket", "dew heater", "red torch", "counterweight", "star chart", "eyepiece case"),
    "month": ("January", "February", "March", "October", "November", "December"),
}  # fmt: skip


@dataclass(frozen=True, slots=True, kw_only=True)
class Topic:
    """The topic of a story: titles and sentences with slots, and the matching picture."""

    name: str
    categories: tuple[str, ...]
    picture: str
    titles: tuple[str, ...]
    sentences: tuple[str, ...]


TOPICS: Mapping[str, Topic] = {
    topic.name: topic
    for topic in (
        Topic(
            name="meteors",
            categories=("Meteors", "Sky"),
            picture="meteor",
            titles=(
                "Fireball over {place} caught by {count} cameras",
                "{rate} meteors an hour from {place} on {day}",
                "A slow, green meteor above {place}, seen from {place}",
                "What the meteor watch at {place} counted on {day}",
                "The radiant stands high by {hour} on {day}: how to count",
                "Second fireball in a week near {place}: send us your sightings",
                "Meteor shower builds towards {day} night",
                "Four cameras, one track: the {day} meteor of {place}",
            ),
            sentences=(
                "A bright fireball crossed the sky in {side} at {hour}, and all {count} cameras of the valley network were awake.",
                "From the tracks the group has worked out a path that ends some thirty kilometres beyond {place}.",
                "The counters at {place} saw {rate} meteors an hour under a sky of magnitude {mag}.",
                "Most of them were faint and quick, and left no train at all.",
                "The radiant of the shower climbs out of the haze near {star} soon after {hour}.",
                "{person} lay on a groundsheet for {count} hours and wrote down every trail by the light of a red torch.",
                "Anyone with a doorbell camera facing {side} is asked to look at the minute around {hour}.",
                "A train hung in the air for {count} seconds and bent slowly in the high wind.",
                "No sound was heard at {place}, but a dog two farms away began to bark at once.",
                "Please send the place, the direction and the time to the nearest minute; guesses are welcome if they are marked as such.",
                "The best hours are those after midnight, when this side of the world runs into the stream head on.",
                "Nobody has found a stone yet, and the ground near {place} is too soft to search before a frost.",
            ),
        ),
        Topic(
            name="comets",
            categories=("Comets", "Sky"),
            picture="comet",
            titles=(
                "The comet reaches magnitude {mag} below {star}",
                "A faint visitor near {star}, drawn from {place}",
                "The comet that would not brighten: a {mood} week at {place}",
                "Where to look for the comet on {day}",
                "Comet grows a second tail over {place}",
                "From the archive: the long comet over {place}",
                "Two comets in one field before dawn at {place}",
            ),
            sentences=(
                "The comet stands at magnitude {mag} and brightens slowly; look late, when the moon is down.",
                "It lies a hand’s width below {star} and moves a moon’s breadth every night.",
                "In a {size} telescope the coma is round and grey, with a point of light that comes and goes.",
                "{person} drew the tail at {place} and needed {count} minutes before the eye believed it.",
                "Binoculars show a soft spot that is easy to sweep past; let the field drift and it gives itself away.",
                "The dust tail points to {side} and is wider than the charts said it would be.",
                "Early numbers were hopeful, as they always are, and have been cut twice since.",
                "It will not come close to us: the nearest it gets is still farther than the sun.",
                "Those who cannot get out before {day} lose little, for it stays in the evening sky until {month}.",
                "A picture of {count} short exposures, stacked at home, brings out the faint green of the inner coma.",
                "The older members remember the one of the dry year, when the tail reached from {place} to the chimney.",
            ),
        ),
        Topic(
            name="nights",
            categories=("Evenings", "Club"),
            picture="ridge",
            titles=(
                "Open evening at {place} on {day}",
                "A beginner’s first {mood} night out at {place}",
                "{count} people, one telescope: notes from {place} on {day}",
                "Bring a chair and a red torch: the {month} evenings at {place}",
                "What we saw from {place} on {day} before the cloud came",
                "The {month} watch moves to {place}",
            ),
            sentences=(
                "The gate at {place} opens at {hour}, and the kettle goes on shortly after.",
                "Bring a chair, a red torch and one more layer than you think you need.",
                "{count} newcomers looked through the {size} reflector and every one of them said the same word.",
                "{person} showed how to find {star} without a chart, by counting fists from the horizon.",
                "The cloud came from {side} at {hour} and stayed, so we talked about mirrors instead.",
                "Children are welcome as long as somebody holds on to them near the ditch.",
                "There is room for {count} cars; please turn the headlamps off before the bend.",
                "If the sky is shut by {hour}, the evening moves to {day} and a note goes up at the gate.",
                "We looked at double stars first, since they do not mind a little mist.",
                "By {hour} the grass was white, and the eyepieces had to be warmed in pockets.",
                "Dogs stay at home: last {month} one of them ate a star chart.",
            ),
        ),
        Topic(
            name="dome",
            categories=("Observatory", "Gear"),
            picture="dome",
            titles=(
                "The {size} mirror at {place} has a new coat",
                "How we re-coated the {size} mirror in {count} {mood} days",
                "The dome turns again after {count} weeks",
                "A quieter motor for the dome above {place}",
                "Guide to the path from {place} to {place} in {month}",
                "Road closed at {place} until {day}",
                "Light from {place}, measured in {month}",
            ),
            sentences=(
                "After {count} days in the workshop the {size} mirror is back in its cell and reflects ninety-four per cent.",
                "The old coat came off with a soft sponge and a great deal of patience.",
                "{person} measured the surface at {count} points; none of them is off by more than a tenth of a wave.",
                "The dome has run on the same wheels since it was built, and two of them had worn square.",
                "A new motor, smaller than a loaf of bread, now turns the dome without waking the village.",
                "The sky above {place} is darker by a tenth of a magnitude since the lamps at the bridge were shaded.",
                "The road from {place} is closed to cars until {day}; walkers can pass on the left.",
                "First light after the work was {star}, as it was forty years ago.",
                "The numbers are in a table that anyone may use, with the errors given beside them.",
                "Visitors are asked not to lean on the rail, which has been painted and is not as dry as it looks.",
                "We thank the {count} people who carried the cell up the hill in the rain.",
            ),
        ),
        Topic(
            name="gear",
            categories=("Gear",),
            picture="silhouette",
            titles=(
                "In stock again: the {thing} at {price}",
                "A tripod that does not shake in the wind at {place}",
                "Is a {size} telescope enough for the {month} moon?",
                "Mend it yourself: the {thing} in {count} steps",
                "{thing}: {price} this week",
                "Which eyepiece first for a {size} telescope?",
            ),
            sentences=(
                "The {thing} comes in two lengths and costs {price} until {day}.",
                "A {size} telescope shows more of the moon than most people look at in a lifetime.",
                "We hung a bag of stones under the tripod at {place}, and the image stood still.",
                "Before you buy a second eyepiece, clean the first one.",
                "The screws are of a common size, which is more than can be said of the last model.",
                "{person} has used the same {thing} since school and sees no reason to change it.",
                "It is heavier than it looks, and steadier for it.",
                "Anything bought here can be brought back within {count} weeks if it does not fit.",
                "Batteries lose half their strength in frost; keep a second set in an inside pocket.",
            ),
        ),
        Topic(
            name="tonight",
            categories=("Forecast",),
            picture="stars",
            titles=(
                "Tonight: clouds clear after {hour}",
                "Moon phases for {month}",
                "Clouds again over {place} on {day}",
                "Frost and a clear sky by {day}",
                "Tonight in one line: look to {side} from {hour}",
                "Sky note for {day}: {mood} and {mood}",
            ),
            sentences=(
                "Cloud breaks from {side} after {hour}, with a clear hour or two before mist forms.",
                "The moon rises at {hour} and washes out all but the brightest stars.",
                "Wind drops towards midnight; expect dew on everything that faces up.",
                "Two planets stand close together near {star} and set by {hour}.",
                "Frost is likely at {place} and certain at {place}.",
                "The next good night looks to be {day}.",
                "High cloud thins towards {hour}, and {star} show through it by fits.",
                "A dry wind out of {side} keeps the dew away until {hour}.",
                "Mist lies in the hollows near {place} and does not reach {place}.",
                "The evening star sets over {place} at {hour}, with nothing in its way.",
                "Rain is done by {hour}, and the ground at {place} will be soft.",
                "Moonset comes at {hour}; after that the sky is as dark as it gets in {month}.",
                "Look low in {side} for a slow light that is no aircraft.",
                "{person} expects {count} clear hours, and has been right since {day}.",
                "It will be {mood}, then {mood} again, with a chance of stars about {hour}.",
                "Nothing moves on the charts until {day}, when a front comes from {side}.",
                "Take gloves to {place}: the air falls to freezing by {hour}.",
                "The haze of {month} is back, and {star} look as if through tea.",
            ),
        ),
        Topic(
            name="business",
            categories=("Club business",),
            picture="none",
            titles=(
                "Annual meeting minutes and treasurer’s report",
                "Membership renewals close on {day}",
                "Weekend market at {place}",
                "Lost and found after the {month} evening",
                "Your {month} horoscope, for what it is worth",
                "Sponsored post: a warmer coat for {price}",
            ),
            sentences=(
                "The treasurer reported that the accounts balance to within the price of a kettle.",
                "It was agreed by {count} votes to two that the gate should be painted.",
                "Renewals are due by {day}; those who pay late will be looked at, kindly.",
                "One glove, one flask and {count} pencils were found at {place} and wait behind the door.",
                "The stall at {place} has jam, wool and a box of old magazines.",
                "{person} was thanked for {count} years of making the tea.",
                "There being no other business, the meeting closed at {hour}.",
                "The roof of the hut will be seen to before {month}, weather and money allowing.",
                "A motion about the shed was put off until somebody has found the key to it.",
            ),
        ),
    )
}
