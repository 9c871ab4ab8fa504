"""Words of Japanese."""

from glyptarch_core.languages.record import Language, phrases

__all__ = ["LANGUAGE"]

LANGUAGE = Language(
    code="ja",
    spaced=False,
    quotes=("「", "」", "『", "』"),
    byline=phrases("文 | 著者 | 執筆 | 記者 | 筆者 | 取材・文"),
    dated=phrases("公開日 | 投稿日 | 更新日 | 最終更新 | 掲載日 | 公開 | 更新 | 配信"),
    today=phrases("今日 | 本日"),
    yesterday=phrases("昨日"),
    notices=phrases(
        "メールマガジンに登録 | メルマガ登録 | ニュースレターに登録 | 広告 | 無断転載を禁じ | "
        "この記事をシェア | クッキーを使用"
    ),
    read_more=phrases(
        "続きを読む | もっと読む | 関連記事 | あわせて読みたい | 詳しくはこちら | もっと見る | 全文を読む"
    ),
    next_page=phrases("次へ | 次のページ | 次 | 過去の記事 | 古い記事 | もっと見る | さらに読み込む"),
    consent=phrases("クッキーを使用 | cookieを使用 | cookie を使用 | プライバシー設定"),
    agree=phrases("同意する | 同意 | 許可する | すべて許可 | 拒否"),
    paywall=phrases("会員限定 | 有料会員限定 | 続きを読むには | 会員登録して"),
    missing=phrases(
        "見つかりません | 見つかりませんでした | 存在しません | アクセスが拒否 | サーバーエラー | メンテナンス中"
    ),
    login=phrases("ログイン | パスワード"),
    tagged=phrases("タグ | キーワード | ラベル"),
    buying=phrases("カートに入れる | カゴに入れる | かごに入れる | 購入する | 今すぐ買う"),
)
