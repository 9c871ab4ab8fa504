"""Words of Hebrew."""

from glyptarch_core.languages.record import Language, phrases, words

__all__ = ["LANGUAGE"]

LANGUAGE = Language(
    code="he",
    quotes=("”", "”", "’", "’"),
    titles=words('גב\' ד"ר מר עו"ד פרופ'),
    abbreviations=words('וכו עמ ע"י'),
    byline=phrases("מאת | כתב | כתבה | מחבר"),
    dated=phrases("פורסם | פורסם ב | עודכן | עדכון אחרון | תאריך פרסום"),
    date_words=words("ב בשעה"),
    today=phrases("היום"),
    yesterday=phrases("אתמול"),
    notices=phrases(
        "הירשמו לניוזלטר | הניוזלטר שלנו | פרסומת | כל הזכויות שמורות | עקבו אחרינו | שתפו את הכתבה | אנו "
        "משתמשים בעוגיות"
    ),
    read_more=phrases("קרא עוד | קראו עוד | המשך קריאה | להמשך קריאה | קראו גם | עוד בנושא"),
    next_page=phrases("הבא | העמוד הבא | ישן יותר | פוסטים ישנים | טען עוד | הצג עוד"),
    consent=phrases("אנו משתמשים בעוגיות | אנחנו והשותפים שלנו | הפרטיות שלך | הגדרות עוגיות"),
    agree=phrases("אישור | מסכים | קבל הכל | דחה"),
    paywall=phrases("למנויים בלבד | כדי להמשיך לקרוא | הירשמו למנוי | כבר מנוי"),
    missing=phrases("לא נמצא | לא נמצאה | הדף אינו קיים | הגישה נדחתה | שגיאת שרת"),
    login=phrases("התחברות | כניסה | סיסמה"),
    tagged=phrases("תגיות | תגים | מילות מפתח | נושאים"),
    buying=phrases("הוסף לסל | הוספה לסל | לקנייה"),
)
