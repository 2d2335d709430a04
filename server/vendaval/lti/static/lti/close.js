// The platform that opened this window may close it (LTI dynamic registration).
;(window.opener || window.parent).postMessage({ subject: 'org.imsglobal.lti.close' }, '*')
