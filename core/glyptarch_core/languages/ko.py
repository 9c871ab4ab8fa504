"""Words of Korean."""

from glyptarch_core.languages.record import Language, phrases

__all__ = ["LANGUAGE"]

LANGUAGE = Language(
    code="ko",
    quotes=("“", "”", "‘", "’"),
    byline=phrases("글 | 기자 | 작성자 | 글쓴이"),
    dated=phrases("입력 | 등록 | 게시 | 게시일 | 작성일 | 수정 | 업데이트 | 최종 수정"),
    today=phrases("오늘"),
    yesterday=phrases("어제"),
    notices=phrases(
        "뉴스레터 구독 | 뉴스레터를 구독 | 광고 | 무단 전재 | 모든 권리 보유 | 팔로우 | 이 기사 공유 | 쿠키를 사용"
    ),
    read_more=phrases("더 보기 | 더보기 | 자세히 보기 | 계속 읽기 | 관련 기사 | 더 읽기"),
    next_page=phrases("다음 | 다음 페이지 | 이전 글 | 더 보기 | 더보기"),
    consent=phrases("쿠키를 사용 | 개인정보 보호 설정 | 쿠키 설정"),
    agree=phrases("동의 | 모두 동의 | 수락 | 허용 | 거부"),
    paywall=phrases("구독자 전용 | 회원 전용 | 유료 회원 | 계속 읽으려면 | 로그인 후"),
    missing=phrases("찾을 수 없습니다 | 존재하지 않는 | 접근이 거부 | 서버 오류"),
    login=phrases("로그인 | 비밀번호"),
    tagged=phrases("태그 | 키워드"),
    buying=phrases("장바구니 담기 | 장바구니에 담기 | 구매하기 | 바로구매"),
)
