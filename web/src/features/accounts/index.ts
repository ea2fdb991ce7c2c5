// Signing in and out, and what is one's own: password and sessions.
export { DueScreen } from "./DueScreen";
export { PersonMenu } from "./PersonMenu";
export { SignIn, SignInForm } from "./SignIn";
