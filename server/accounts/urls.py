from django.urls import path

from server.accounts.views import AccountView, DemoSessionView, PasswordView, SessionView

urlpatterns = [
    path("session/", SessionView.as_view(), name="session"),
    path("session/demo/", DemoSessionView.as_view(), name="session-demo"),
    path("accounts/", AccountView.as_view(), name="accounts"),
    path("accounts/password/", PasswordView.as_view(), name="account-password"),
]
