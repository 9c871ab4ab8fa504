"""The record for texts of an unknown language: what harms no language that has a record."""

from glyptarch_core.languages.record import Language, words

__all__ = ["LANGUAGE"]

LANGUAGE = Language(
    code="root",
    titles=words(
        "capt col dhr dipl dott dr dra ee fr gen gov hon hr ing lt mevr mgr mlle mme mr mrs ms mw prof rep "
        "rev sen sgt sig sr sra srta st ste sv św акад им проф ул डॉ प्रो श्री पं pres"
    ),
    abbreviations=words(
        "abs al allg approx apr aprox atd aug av avda ave bl blvd bspw bzw ca cf chap co corp dec dept ecc ed "
        "eds ej enz env est etc evtl feb fig figs ft geb gest ggf inc inh inkl itd itp jan jh jhd jr jul jun "
        "km ltd mar max mio min mrd mt nov np např nr nos núm oct op osv pag pág págs ph.d pp resp sep sept "
        "sog str tel tél tj tsd tzn tzv ud uds uu usw vgl viz vol vs zzgl вв гг др млн млрд напр пр рис руб "
        "см стр тыс"
    ),
    openers=words(
        "after all also an and as at but by for from he her here his how if in it its my no not now on our "
        "she so that the their then there these they this to we what when where who why with yes you your "
        "aber als am auch auf bei da danach dann das dem den der des deshalb die dies diese doch ein eine er "
        "es für hier ich ihr im ist jetzt man mit nach nun oder sie sind um und von war was wenn wer wie wir "
        "zu zum ainsi au aux avec ce ces cette dans elle elles en est et il ils je la le les mais nous on où "
        "par pour puis quand qui sur un une vous como con cuando de del después el ella ellos esta este la "
        "las lo los luego no pero por según se su sus una y ya anche che con dal dopo gli ha il io lei lo ma "
        "nel non per poi quando questa questo se sono uno com depois ele ela eles isso mas não os para quando "
        "uma daarna dan dat de een en er het hij ik maar met nu ook toen van wij zij ale gdy jak jest na nie "
        "po potem tak to вы где для до его ее если за затем и из как когда мы на не но однако он она они оно "
        "по после потом так там это"
    ),
    after_ordinals=words(
        "januar jänner februar feber märz april mai juni juli august september oktober november dezember "
        "jahrhundert klasse liga bundesliga platz rang mal stock auflage geburtstag jahrestag runde spieltag "
        "teil kapitel advent weltkrieg"
    ),
)
