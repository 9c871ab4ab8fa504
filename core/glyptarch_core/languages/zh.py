"""Words of Chinese."""

from glyptarch_core.languages.record import Language, phrases

__all__ = ["LANGUAGE"]

LANGUAGE = Language(
    code="zh",
    locales=phrases("zh | zh_Hant"),
    spaced=False,
    quotes=("“", "”", "‘", "’"),
    byline=phrases("作者 | 作者： | 记者 | 記者 | 文 | 撰文 | 编辑 | 編輯"),
    dated=phrases("发布于 | 发布时间 | 發佈於 | 发表于 | 發表於 | 更新于 | 更新時間 | 更新时间 | 时间"),
    today=phrases("今天 | 今日"),
    yesterday=phrases("昨天 | 昨日"),
    notices=phrases(
        "订阅我们的 | 訂閱我們的 | 广告 | 廣告 | 版权所有 | 版權所有 | 分享本文 | 我们使用 cookie | 我們使用 cookie"
    ),
    read_more=phrases(
        "阅读更多 | 閱讀更多 | 阅读全文 | 閱讀全文 | 延伸阅读 | 延伸閱讀 | 相关阅读 | 相關閱讀 | 更多 | 查看更多"
    ),
    next_page=phrases("下一页 | 下一頁 | 下页 | 下頁 | 后页 | 更早 | 加载更多 | 載入更多 | 更多文章"),
    consent=phrases("我们使用 cookie | 我们使用cookie | 我們使用 cookie | 我們使用cookie | 您的隐私 | 您的隱私"),
    agree=phrases("同意 | 接受 | 全部接受 | 拒绝 | 拒絕"),
    paywall=phrases("仅限会员 | 僅限會員 | 订阅后阅读 | 訂閱後閱讀 | 继续阅读请 | 付费阅读 | 成为会员"),
    missing=phrases("找不到 | 未找到 | 页面不存在 | 頁面不存在 | 拒绝访问 | 服务器错误"),
    login=phrases("登录 | 登入 | 密码 | 密碼"),
    tagged=phrases("标签 | 標籤 | 关键词 | 關鍵字"),
    buying=phrases("加入购物车 | 加入購物車 | 立即购买 | 购买"),
)
